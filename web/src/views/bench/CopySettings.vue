<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import PresetPicker from '../../parts/PresetPicker.vue'
import ReviseDialog from '../../parts/ReviseDialog.vue'
import { useTray } from '../../stores/tray'
import { groups } from './settings'
import { onBench } from './useBench'

/** Settings from the brush on the Bench to those in the tray, a group at a time; or from another brush to this one. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const tray = useTray()
const chosen = ref<string[]>(['response'])
const all = computed(() => [...groups().slice(0, 2), { name: 'response', title: 'Response', help: '' }, ...groups().slice(2)])
const ids = computed(() => tray.ids.filter((id) => id !== bench.id))
const from = ref(false)
const change = computed(() => (chosen.value.length ? { change: 'copy' as const, document: bench.document.value!, groups: chosen.value } : undefined))

/** The chosen groups of another brush, tuned into this one as a draft. */
async function take(id: number) {
  await bench.toast.attempt(async () => {
    const other = await of(api.GET('/api/presets/{id}', { params: { path: { id } } }))
    bench.tune({ ...bench.document.value!, ...Object.fromEntries(chosen.value.map((name) => [name, (other.document as Record<string, unknown>)[name]])) })
    bench.toast.done(`${chosen.value.length === 1 ? 'One group' : `${chosen.value.length} groups`} of “${other.preset.name}” taken over, kept as your draft.`)
    emit('close')
  })
}
</script>

<template>
  <ReviseDialog :title="`Copy settings of “${bench.document.value!.name}”`" :change="ids.length ? change : undefined" :ids="ids" @close="emit('close')" @done="bench.load()">
    <el-checkbox-group v-model="chosen" aria-label="Groups to copy"><el-checkbox v-for="{ name, title } in all" :key="name" :value="name" :label="title" /></el-checkbox-group>
    <p v-if="!ids.length" class="soft">The tray is empty. Pick brushes on the Wall to copy to them, or take settings from another brush:</p>
    <p class="line"><span class="soft">The other way round:</span><button v-if="!from" class="plain" :disabled="!chosen.length" @click="from = true">take them from another brush</button><PresetPicker v-else label="Take them from" @pick="take" @close="from = false" /></p>
  </ReviseDialog>
</template>

<style scoped>
p { margin: 6px 0; }
</style>
