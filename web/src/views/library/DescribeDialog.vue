<script setup lang="ts">
import { ref } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** A library's name, and what it is for. */
const props = defineProps<{ page: components['schemas']['LibraryPage'] }>()
const emit = defineEmits<{ close: []; done: [] }>()
const library = useLibrary()
const toast = useToast()
const name = ref(props.page.name)
const description = ref(props.page.description)
const { busy, problem, go } = useDeed(async () => {
  const body = { name: name.value, description: description.value }
  const { entry } = await of(api.PUT('/api/libraries/{library}', { ...library.path(), body }))
  toast.done(`${entry.summary}.`)
  emit('done')
})
</script>

<template>
  <FormDialog
    title="Name and description"
    deed="Save"
    :busy="busy"
    :ready="!!name.trim()"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <label>Name<el-input v-model="name" maxlength="60" /></label>
    <label>Purpose<el-input v-model="description" type="textarea" :rows="5" maxlength="2000" /></label>
  </FormDialog>
</template>
