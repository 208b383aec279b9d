<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, upload, type Import } from '../../api/client'
import type { components } from '../../api/schema'
import { useImport, type Brought } from '../../stores/import'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import { titled, words } from '../../stores/words'
import { useWork } from '../../stores/work'
import ImportPlan from './ImportPlan.vue'
import { moment } from '../../parts/when'

/** Where files come in. Each delivery is an import with a plan, before anything is changed. */
const incoming = useImport()
const library = useLibrary()
const toast = useToast()
const work = useWork()
const route = useRoute()
const router = useRouter()
const imports = ref<Import[]>([])
const folder = ref('')
const limits = ref<components['schemas']['ImportLimits']>()
const sending = ref<{ name: string; sent: number; size: number; at: number; of: number }>()
const files = ref<HTMLInputElement>()
const tree = ref<HTMLInputElement>()
const chosen = computed(() =>
  sending.value
    ? undefined
    : (imports.value.find(({ id }) => id === Number(route.query.import)) ??
      imports.value.find(({ state }) => state === 'planned')),
)
const load = () =>
  toast.attempt(
    async () =>
      ({
        imports: imports.value,
        folder: folder.value,
        limits: limits.value,
      } = await of(api.GET('/api/libraries/{library}/imports', library.path()))),
  )
onMounted(load)
watch(
  () => [
    library.stamp,
    toast.undone,
    work.tasks
      .filter(({ state }) => state === 'done')
      .map(({ id }) => id)
      .join(),
  ],
  load,
)
const show = (id: number) => router.replace({ query: { import: id } })

/** Sends what was dropped or chosen, one file after the other, then has it read. */
async function bring(brought: Brought[]) {
  if (!brought.length || sending.value) return
  const folders = new Set(brought.map(({ name }) => name.split('/')[0]))
  const name =
    brought.length === 1 ? brought[0]!.name : folders.size === 1 ? [...folders][0]! : `${brought.length} files`
  await router.replace({ query: {} })
  await toast.attempt(async () => {
    const begun = await of(
      api.POST('/api/libraries/{library}/imports', { ...library.path(), body: { name: name.slice(0, 200) } }),
    )
    for (const [at, one] of brought.entries()) {
      sending.value = { name: one.name, sent: 0, size: one.file.size, at: at + 1, of: brought.length }
      await upload(
        one.file,
        `/api/imports/${begun.id}/files?name=${encodeURIComponent(one.name)}`,
        (sent) => (sending.value!.sent = sent),
      )
    }
    const reading = await of(api.POST('/api/imports/{id}/read', { params: { path: { id: begun.id } } }))
    sending.value = undefined
    await load()
    await show(begun.id)
    if (reading.task) await work.follow(reading.task)
  })
  sending.value = undefined
  await load()
}
watch(
  () => incoming.parcel,
  (dropped) => {
    if (dropped) {
      incoming.parcel = undefined
      bring(dropped)
    }
  },
  { immediate: true },
)
function picked(input?: HTMLInputElement) {
  const list = [...(input?.files ?? [])].map((file) => ({ name: file.webkitRelativePath || file.name, file }))
  if (input) input.value = ''
  bring(list)
}
const number = (value: number) => value.toLocaleString('en-GB')
const megabytes = (bytes: number) => (bytes / 1048576).toFixed(bytes < 10485760 ? 1 : 0)
function changed(gone?: boolean) {
  if (!gone) show(chosen.value!.id)
  load()
}
</script>

<template>
  <div class="page import">
    <aside>
      <h1>Import</h1>
      <input ref="files" type="file" multiple hidden aria-label="Choose files" @change="picked(files)" />
      <input ref="tree" type="file" webkitdirectory hidden aria-label="Choose a folder" @change="picked(tree)" />
      <button class="drop" @click="files?.click()">
        <b>Drop files here, or choose</b
        ><span class="soft small">packages, presets, pictures, layered drawings, reels, shapes, tables</span>
      </button>
      <div class="line">
        <button class="plain" @click="tree?.click()">Choose a folder…</button>
      </div>
      <p v-if="folder" class="soft small">
        Files placed in <code>{{ folder }}</code> are imported automatically.
      </p>
      <details v-if="limits" class="soft small">
        <summary>Limits</summary>
        At most {{ number(limits.files) }} files and {{ number(limits.mb) }} MB per import. A picture:
        {{ limits.picture_mb }} MB, {{ number(limits.side) }} px a side, {{ limits.pixels / 1e6 }} million pixels;
        {{ limits.frames }} in one file.
        <template v-if="limits.waiting_days"
          >Imports left unfinished are discarded after {{ limits.waiting_days }} days.</template
        >
      </details>
      <button
        v-for="one in imports"
        :key="one.id"
        class="choice"
        :class="{ on: one.id === chosen?.id }"
        :aria-pressed="one.id === chosen?.id"
        @click="show(one.id)"
      >
        <span
          ><b>{{ one.name }}</b
          ><br /><span class="soft small">{{ one.source }}, {{ moment(one.at) }}</span></span
        >
        <span :class="one.state === 'planned' ? 'changed' : 'soft small'">{{
          one.entry?.undone ? 'undone' : titled(words.imports, one.state)
        }}</span>
      </button>
    </aside>
    <section v-if="sending" class="empty" role="status">
      <p>
        Sending {{ sending.name }}{{ sending.of > 1 ? `, ${sending.at} of ${sending.of}` : '' }}:
        {{ megabytes(sending.sent) }} of {{ megabytes(sending.size) }} MB
      </p>
      <el-progress :percentage="sending.size ? Math.min(100, Math.round((100 * sending.sent) / sending.size)) : 100" />
    </section>
    <ImportPlan v-else-if="chosen" :key="chosen.id" :incoming="chosen" @changed="changed" />
    <section v-else class="empty">
      <p>Nothing is waiting. You preview every change before anything is imported.</p>
      <el-button type="primary" @click="files?.click()">Choose files</el-button>
    </section>
  </div>
</template>

<style scoped>
.import {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr);
  gap: 24px;
  align-content: start;
}
h1 {
  margin-bottom: 10px;
}
.drop {
  display: grid;
  gap: 4px;
  place-content: center;
  justify-items: center;
  width: 100%;
  min-height: 92px;
  margin-bottom: 6px;
  padding: 8px;
  font: inherit;
  color: var(--ink);
  border: 2px dashed var(--line-strong);
  border-radius: 10px;
  background: var(--card);
  cursor: pointer;
}
.drop:hover {
  border-color: var(--accent);
}
aside p,
details {
  margin: 6px 4px 12px;
}
summary {
  cursor: pointer;
}
code {
  overflow-wrap: anywhere;
}
.choice b {
  overflow-wrap: anywhere;
}
@media (max-width: 820px) {
  .import {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
