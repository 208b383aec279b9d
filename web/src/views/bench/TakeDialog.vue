<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import { api, of, type Document } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import PresetPicker from '../../parts/PresetPicker.vue'
import SettingGroups from '../../parts/SettingGroups.vue'
import type { Group } from './settings'

/** Settings of another brush into the one on the Bench, a group at a time. */
defineProps<{ into: Document }>()
const emit = defineEmits<{ close: []; take: [document: Document, groups: Group[]] }>()
const other = shallowRef<Document>()
const chosen = ref<Group[]>(['response'])
const choose = async (id: number) =>
  (other.value = (await of(api.GET('/api/presets/{id}', { params: { path: { id } } }))).document)
function take() {
  emit('take', other.value!, chosen.value)
  emit('close')
}
</script>

<template>
  <FormDialog
    :title="`Copy settings into “${into.name}”`"
    deed="Copy into my draft"
    :ready="!!other && chosen.length > 0"
    width="620px"
    @submit="take"
    @close="emit('close')"
  >
    <slot />
    <p class="line">
      <span class="soft">From</span><PresetPicker label="The brush to copy from" @pick="choose" @close="undefined" /><b
        v-if="other"
        >{{ other.name }}</b
      >
    </p>
    <SettingGroups v-model="chosen" :from="other" />
  </FormDialog>
</template>

<style scoped>
p {
  margin: 6px 0;
}
</style>
