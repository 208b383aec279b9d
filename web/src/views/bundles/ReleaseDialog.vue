<script setup lang="ts">
import { ref } from 'vue'
import { api, of, type Bundle } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { useToast } from '../../stores/toast'
import type { Doing } from './useDoing'

/** Freezes a bundle as its next release. */
const props = defineProps<{
  bundle: Bundle
  flight: components['schemas']['Preflight']
  busy: boolean
  doing: Doing
}>()
const emit = defineEmits<{ close: [] }>()
const toast = useToast()
const number = ref(props.flight.number)
const notes = ref(props.flight.notes)
async function release() {
  const well = await props.doing(async () => {
    const body = { number: number.value, notes: notes.value }
    const made = await of(api.POST('/api/bundles/{id}/releases', { params: { path: { id: props.bundle.id } }, body }))
    const what = `“${props.bundle.name}” ${made.number} released with ${made.count} brushes.`
    toast.done(`${what} It stays available for download.`)
  })
  if (well) emit('close')
}
</script>

<template>
  <FormDialog
    :title="`Release “${bundle.name}”`"
    :deed="`Release ${number}`"
    :busy="busy"
    :ready="!!number.trim()"
    @submit="release"
    @close="emit('close')"
  >
    <p class="soft">
      The changes since {{ flight.last ?? 'the beginning' }} call for at least {{ flight.number }}. Releases never
      change.
    </p>
    <label>Number<el-input v-model="number" aria-label="Number of the release" /></label
    ><label>Notes<el-input v-model="notes" type="textarea" :rows="4" aria-label="Notes of the release" /></label>
  </FormDialog>
</template>
