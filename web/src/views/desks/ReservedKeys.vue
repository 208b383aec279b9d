<script setup lang="ts">
import { ref } from 'vue'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import KeyButton from './KeyButton.vue'
import { atDesk } from './useDesk'

/** The keys that the painting program keeps for itself: no brush of this library's desks takes them. */
const props = defineProps<{ keys: Record<string, string> }>()
const emit = defineEmits<{ close: [] }>()
const { library } = atDesk()
const rows = ref(Object.entries(props.keys).map(([key, what]) => ({ key, what })))
const { busy, problem, go } = useDeed(async () => {
  const keys = Object.fromEntries(
    rows.value.filter(({ key }) => key).map(({ key, what }) => [key, what.trim() || 'its own']),
  )
  await of(api.PUT('/api/libraries/{library}/reserved-keys', { ...library.path(), body: { keys } }))
  await library.load()
  emit('close')
})
</script>

<template>
  <FormDialog
    title="Reserved shortcuts"
    deed="Save"
    :busy="busy"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <div v-for="(one, index) in rows" :key="index" class="line">
      <KeyButton :name="one.what || 'a new one'" :of="one.key" :fixed="false" @key="one.key = $event ?? ''" />
      <el-input v-model="one.what" placeholder="What it does" aria-label="What it does" maxlength="60" />
      <button type="button" class="plain" :aria-label="`Remove ${one.key}`" @click="rows.splice(index, 1)">✕</button>
    </div>
    <button type="button" class="plain" @click="rows.push({ key: '', what: '' })">Add</button>
  </FormDialog>
</template>

<style scoped>
.line {
  margin-bottom: 6px;
}
</style>
