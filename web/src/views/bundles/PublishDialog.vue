<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, of, type Bundle } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import { useWork, type Task } from '../../stores/work'

/** Proposals a release to the gallery outside the studio, and shows how far that is. */
const props = defineProps<{ release: components['schemas']['Release']; bundle: Bundle }>()
const emit = defineEmits<{ close: [] }>()
const work = useWork()
const words = reactive({
  title: `${props.bundle.name} ${props.release.number}`,
  description: props.bundle.description,
  tags: '',
})
const task = ref<Task>()

const { busy, problem, go } = useDeed(async () => {
  task.value = await of(
    api.POST('/api/releases/{id}/publish', { params: { path: { id: props.release.id } }, body: { ...words } }),
  )
  const ended = await work.follow(task.value)
  if (ended.state === 'done') emit('close')
  else task.value = undefined
})
</script>

<template>
  <FormDialog
    :title="`Publish ${bundle.name} ${release.number} to the external gallery`"
    deed="Publish"
    :cancel="task ? 'Leave it going' : 'Cancel'"
    :busy="busy || !!task"
    :ready="!!words.title.trim()"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <label>Title<el-input v-model="words.title" aria-label="Title in the gallery" maxlength="200" /></label>
    <label
      >Description<el-input
        v-model="words.description"
        type="textarea"
        :rows="3"
        aria-label="Description in the gallery"
        maxlength="5000"
    /></label>
    <label
      >Tags<el-input
        v-model="words.tags"
        aria-label="Tags in the gallery"
        placeholder="comma-separated"
        maxlength="500"
    /></label>
    <el-progress
      v-if="task"
      :percentage="work.part(work.tasks.find(({ id }) => id === task!.id) ?? task)"
      aria-label="Upload"
    />
    <p class="soft">
      Everybody with access to the gallery can download it. The upload continues if you leave this page.
    </p>
  </FormDialog>
</template>
