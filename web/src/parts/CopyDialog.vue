<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { api, of, type Document } from '../api/client'
import type { Group } from '../views/bench/settings'
import PresetPicker from './PresetPicker.vue'
import ReviseDialog from './ReviseDialog.vue'
import SettingGroups from './SettingGroups.vue'

/** Settings of one brush to others, a group at a time. */
const props = defineProps<{ ids: number[]; from?: Document }>()
const emit = defineEmits<{ close: []; done: [] }>()
const source = shallowRef<Document | undefined>(props.from)
const chosen = ref<Group[]>(['response'])
const title = computed(() =>
  source.value ? `Copy settings of “${source.value.name}”` : 'Copy settings to the selected brushes',
)
const change = computed(() =>
  source.value && chosen.value.length && props.ids.length
    ? { change: 'copy' as const, document: source.value, groups: chosen.value }
    : undefined,
)
const choose = async (id: number) =>
  (source.value = (await of(api.GET('/api/presets/{id}', { params: { path: { id } } }))).document)
</script>

<template>
  <ReviseDialog :title="title" :change="change" :ids="ids" @close="emit('close')" @done="emit('done')">
    <slot />
    <p v-if="!from" class="line">
      <span class="soft">From</span><PresetPicker label="The brush to copy from" @pick="choose" @close="undefined" />
    </p>
    <SettingGroups v-model="chosen" :from="source" />
  </ReviseDialog>
</template>

<style scoped>
p {
  margin: 6px 0;
}
</style>
