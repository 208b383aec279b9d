<script setup lang="ts">
import { ref } from 'vue'
import { api, of, Refused } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import UsedWhere from '../../parts/UsedWhere.vue'
import CaptureList from './CaptureList.vue'
import { onBench } from './useBench'
import { useCapture } from './useCapture'

/** Saving for everybody, in words: what is kept, and what would be saved along only if asked for. */
const props = defineProps<{ next: number }>()
const emit = defineEmits<{
  close: []
  overtaken: [note: string, captured: ReturnType<typeof useCapture>['captured']['value']]
}>()
const bench = onBench()
const { detail, document, busy, at } = bench
const { items, captured, along, left, flip } = useCapture()
const note = ref('')
const problem = ref('')

async function save() {
  problem.value = ''
  try {
    await bench.doing(async () => {
      const base = detail.value!.draft?.base ?? detail.value!.preset.version
      const body = { kept: detail.value!.kept, base, note: note.value, capture: captured.value }
      const got = await of(api.POST('/api/presets/{id}/versions', { ...at, body }))
      bench.take(got)
      await bench.library.load()
      const more = along.value.length ? `, and its ${along.value.join(', ')}` : ''
      bench.toast.done(`Saved as version ${got.preset.version}${more}.`)
    })
    emit('close')
  } catch (error) {
    if (error instanceof Refused && error.status === 409) return emit('overtaken', note.value, captured.value)
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <FormDialog
    :title="`Save “${document!.name}” as version ${props.next}`"
    :deed="`Save version ${props.next}`"
    :busy="busy"
    :problem="problem"
    @submit="save"
    @close="emit('close')"
  >
    <p class="soft">
      Saves all settings with the tip and the grain. Version {{ detail!.preset.version }} stays in the history.
    </p>
    <el-input v-model="note" placeholder="What changed (optional)" aria-label="Note for this version" maxlength="200" />
    <UsedWhere :ids="[bench.id]" />
    <CaptureList :items="items" :left="left" @flip="flip" />
  </FormDialog>
</template>
