<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, asFile, of } from '../../api/client'
import { save } from '../../parts/save'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** Writes down what this library stands on now; holds it against what was written down earlier, and goes back. */
defineProps<{ mayRestore: boolean }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const chooser = ref<HTMLInputElement>()
const file = ref<File>()
const differences = ref<{ kind: string; name: string; id: string }[]>()
const WORDS: Record<string, string> = { missing: 'missing', other: 'other settings', more: 'not in the file' }

const { problem: unwritten, go: write } = useDeed(async () => {
  const answer = await api.GET('/api/libraries/{library}/lock', { ...library.path(), parseAs: 'blob' })
  const name = save((await of(Promise.resolve(answer))) as unknown as Blob, answer.response)
  toast.done(`${name} was downloaded.`)
})
const hold = async (plan: boolean) => {
  const params = { ...library.path().params, query: { plan } }
  return of(api.POST('/api/libraries/{library}/lock', { params, ...asFile(file.value!) }))
}
const { problem, go: compare } = useDeed(async () => {
  file.value = chooser.value!.files?.[0]
  chooser.value!.value = ''
  differences.value = undefined
  if (file.value) differences.value = (await hold(true)).differences
})
const back = computed(() => differences.value?.filter(({ kind }) => kind !== 'more') ?? [])
const {
  busy,
  problem: unrestored,
  go: restore,
} = useDeed(async () => {
  const done = await hold(false)
  differences.value = done.differences
  await library.load()
  toast.done(done.entry ? `${done.entry.summary}.` : 'None of these versions exist here.', done.entry ?? undefined)
})
</script>

<template>
  <el-dialog model-value title="Lock file" width="560px" @close="emit('close')">
    <p>
      A lock file records the release of every followed bundle and the version of every brush, so an old scene can be
      reopened with exactly the brushes it used.
    </p>
    <el-button type="primary" @click="write">Create lock file</el-button>
    <el-button @click="chooser!.click()">Compare with a lock file…</el-button>
    <input ref="chooser" type="file" hidden aria-label="Choose a lock file" @change="compare" />
    <p v-for="one in [unwritten, problem, unrestored].filter(Boolean)" :key="one" class="problem" role="alert">
      {{ one }}
    </p>
    <template v-if="differences">
      <p v-if="!differences.length" role="status">Everything matches {{ file?.name }}.</p>
      <template v-else>
        <h3>{{ differences.length }} {{ differences.length === 1 ? 'brush differs' : 'brushes differ' }}</h3>
        <ul>
          <li v-for="one in differences.slice(0, 200)" :key="one.id">
            <b>{{ one.name }}</b> <span class="soft">{{ WORDS[one.kind] }}</span>
          </li>
        </ul>
        <el-button v-if="mayRestore && back.length" :loading="busy" @click="restore"
          >Restore {{ back.length === 1 ? 'this one' : `these ${back.length}` }}</el-button
        >
      </template>
    </template>
  </el-dialog>
</template>

<style scoped>
ul {
  max-height: 30vh;
  overflow: auto;
  padding-left: 18px;
}
h3 {
  margin: 14px 0 4px;
}
.problem {
  color: var(--madder);
}
</style>
