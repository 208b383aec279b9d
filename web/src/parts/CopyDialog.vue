<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { api, of, type Document } from '../api/client'
import { groups } from '../views/bench/settings'
import PresetPicker from './PresetPicker.vue'
import ReviseDialog from './ReviseDialog.vue'

/** Settings of one brush to others, a group at a time. */
const props = defineProps<{ ids: number[]; from?: Document }>()
const emit = defineEmits<{ close: []; done: []; take: [document: Document, groups: string[]] }>()
const source = shallowRef<Document | undefined>(props.from)
const chosen = ref<string[]>(['response'])
const all = computed(() => [...groups().slice(0, 2), { name: 'response', title: 'Response', help: '' }, ...groups().slice(2)])
const change = computed(() => (source.value && chosen.value.length && props.ids.length ? { change: 'copy' as const, document: source.value, groups: chosen.value } : undefined))
const reverse = ref(false)
const fetch = async (id: number) => (await of(api.GET('/api/presets/{id}', { params: { path: { id } } }))).document as Document
const choose = async (id: number) => (source.value = await fetch(id))
const take = async (id: number) => { emit('take', await fetch(id), chosen.value); emit('close') }
</script>

<template>
  <ReviseDialog :title="source ? `Copy settings of “${source.name}”` : 'Copy settings to the picked brushes'" :change="change" :ids="ids" @close="emit('close')" @done="emit('done')">
    <p v-if="!from" class="line"><span class="soft">From</span><PresetPicker label="The brush to copy from" @pick="choose" @close="undefined" /></p>
    <el-checkbox-group v-model="chosen" aria-label="Groups to copy"><el-checkbox v-for="{ name, title } in all" :key="name" :value="name" :label="title" /></el-checkbox-group>
    <template v-if="from">
      <p v-if="!ids.length" class="soft">The tray is empty. Pick brushes on the Wall to copy to them, or take settings from another brush:</p>
      <p class="line"><span class="soft">The other way round:</span><button v-if="!reverse" class="plain" :disabled="!chosen.length" @click="reverse = true">take them from another brush</button><PresetPicker v-else label="Take them from" @pick="take" @close="reverse = false" /></p>
    </template>
  </ReviseDialog>
</template>

<style scoped>
p { margin: 6px 0; }
</style>
