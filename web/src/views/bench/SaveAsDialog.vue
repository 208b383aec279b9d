<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import { onBench } from './useBench'

/** A new brush from what lies on the Bench: its name, its place in the sets, what is saved along. */
const props = defineProps<{ captured: ('colour' | 'layer' | 'under' | 'mirror')[]; items: { name: string; title: string; there: boolean; value: string }[]; switches: Record<string, boolean> }>()
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, document, at, busy } = bench
const name = ref(detail.value!.next_name)
const favourite = ref(false)
const sets = computed(() => bench.library.sets.filter(({ query }) => query === null))
const set = ref<number | ''>('')
const place = ref<number | 'end'>('end')
const inSet = computed(() => sets.value.find(({ id }) => id === set.value)?.preset_ids.map((id) => bench.library.byId.get(id)!).filter(Boolean) ?? [])

function chooseSet(id: number | '') {
  set.value = id
  bench.library.need(sets.value.find((one) => one.id === id)?.preset_ids ?? [])
  // Beside the brush it came from, where that one is in the set.
  const ids = sets.value.find((one) => one.id === id)?.preset_ids ?? []
  place.value = ids[ids.indexOf(bench.id) + 1] ?? 'end'
  if (!ids.includes(bench.id)) place.value = 'end'
}
const first = detail.value!.sets[0]
if (first) chooseSet(first.id)

const save = () => bench.doing(async () => {
  const places = set.value === '' ? [] : [{ set: set.value, before: place.value === 'end' ? null : place.value }]
  const got = await of(api.POST('/api/presets/{id}/variations', { ...at, body: { document: document.value!, name: name.value.trim(), capture: props.captured, favourite: favourite.value, places } }))
  await bench.library.load()
  emit('close')
  bench.toast.done(`Saved as a new brush, “${got.preset.name}”. “${detail.value!.preset.name}” stays as it was.`)
  await bench.router.push({ name: 'bench', params: { id: got.preset.id } })
})
</script>

<template>
  <el-dialog model-value title="Save as a new brush" width="460px" @close="emit('close')">
    <form @submit.prevent="save">
      <label>Name<el-input v-model="name" aria-label="Name of the new brush" maxlength="200" autofocus /></label>
      <div class="line">
        <label class="wide">Set<el-select :model-value="set" aria-label="Set to put it in" @update:model-value="chooseSet"><el-option value="" label="in no set" /><el-option v-for="one in sets" :key="one.id" :value="one.id" :label="one.name" /></el-select></label>
        <label v-if="set !== ''" class="wide">Place<el-select v-model="place" aria-label="Place in the set"><el-option v-for="one in inSet" :key="one.id" :value="one.id" :label="`before ${one.name}`" /><el-option value="end" label="at the end" /></el-select></label>
      </div>
      <label class="line"><el-switch v-model="favourite" size="small" aria-label="Into favourites" /> Into my favourites</label>
      <fieldset>
        <legend>Saved along only if switched on</legend>
        <label v-for="one in items" :key="one.name" class="line"><el-switch v-model="switches[one.name]" size="small" :disabled="!one.there" :aria-label="`Save the ${one.title.toLowerCase()} along`" /><span>{{ one.title }}</span><span class="soft">{{ one.value }}</span></label>
      </fieldset>
      <div class="line end"><el-button @click="emit('close')">Cancel</el-button><el-button type="primary" native-type="submit" :disabled="!name.trim()" :loading="busy">Save the new brush</el-button></div>
    </form>
  </el-dialog>
</template>

<style scoped>
form { display: grid; gap: 12px; }
.wide { flex: 1; min-width: 0; }
fieldset { border: 1px solid var(--line); border-radius: 7px; padding: 6px 12px 10px; margin: 0; display: grid; gap: 6px; }
legend { font-weight: 700; font-size: 12px; padding: 0 4px; }
.end { justify-content: flex-end; }
.end :deep(.el-button + .el-button) { margin-left: 0; }
</style>
