<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of } from '../api/client'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import FormDialog from './FormDialog.vue'
import { useDeed } from './useDeed'

/** Makes a library; whoever makes it leads it. */
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const toast = useToast()
const router = useRouter()
const name = ref('')
const description = ref('')
const kind = ref<'project' | 'studio' | 'stock'>('project')
const { busy, problem, go } = useDeed(async () => {
  const body = { name: name.value, description: description.value, kind: kind.value }
  const made = await of(api.POST('/api/libraries', { body }))
  await session.load()
  emit('close')
  await router.push({ name: 'library', params: { library: made.id } })
  toast.done(`“${made.name}” was created. You lead it: invite people and import brushes.`)
})
</script>

<template>
  <FormDialog
    title="New library"
    deed="Create"
    :busy="busy"
    :ready="!!name.trim()"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <label>Name<el-input v-model="name" maxlength="60" /></label>
    <label
      >Purpose<el-input v-model="description" type="textarea" :rows="2" maxlength="2000" placeholder="optional"
    /></label>
    <el-radio-group v-if="session.person?.owner" v-model="kind" aria-label="Kind of library">
      <el-radio value="project">A project’s brushes</el-radio>
      <el-radio value="studio">The whole studio’s brushes</el-radio>
      <el-radio value="stock">Stock: untouched originals</el-radio>
    </el-radio-group>
  </FormDialog>
</template>

<style scoped>
.el-radio-group {
  display: grid;
  justify-items: start;
}
</style>
