<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import ExportDialog from '../../parts/ExportDialog.vue'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import ExportTemplateHelp from './ExportTemplateHelp.vue'

/** The studio's own text templates: what is written at the left is what comes out at the right. */
type ExportTemplate = components['schemas']['ExportTemplate']
type Kept = components['schemas']['KeptExportTemplate']
const library = useLibrary()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const exportTemplates = ref<Kept[]>([])
const examples = ref<ExportTemplate[]>([])
const limits = ref<{ kb: number; mb: number; steps: number; seconds: number }>()
const draft = reactive<ExportTemplate>({ name: '', scope: 'each', file: '', body: '' })
const chosen = computed(() => exportTemplates.value.find(({ id }) => id === Number(route.query.template)))
const preview = ref<{ count: number; unknown: string[]; files: { name: string; text: string }[] }>()
const previewed = computed(() => {
  if (!preview.value) return ''
  const { count } = preview.value
  return `${count} ${count === 1 ? 'file' : 'files'} for ${tray.ids.length ? 'the tray' : 'the first brushes here'}`
})
const problem = ref('')
const sample = ref<number[]>([])
const writing = ref(false)
const help = ref(false)
const changed = computed(
  () => !chosen.value || (['name', 'scope', 'file', 'body'] as const).some((key) => draft[key] !== chosen.value![key]),
)
let asked = 0

async function load() {
  await toast.attempt(async () => {
    const got = await of(api.GET('/api/libraries/{library}/export-templates', library.path()))
    exportTemplates.value = got.export_templates
    examples.value = got.examples
    limits.value = got.limits
    if (!draft.body) open(chosen.value ?? exportTemplates.value[0] ?? got.examples[0]!)
  })
}
function open(one: ExportTemplate | Kept) {
  Object.assign(draft, { name: one.name, scope: one.scope, file: one.file, body: one.body })
  router.replace({ query: 'id' in one ? { template: one.id } : {} })
}
onMounted(load)
watch(() => library.stamp, load)
// Shown for the tray, or for the first brushes of the library.
watch(
  () => tray.ids.length,
  async () => {
    sample.value = tray.ids.length
      ? tray.ids.slice(0, 20)
      : (await of(api.GET('/api/libraries/{library}/brushes/ids', library.path()))).ids.slice(0, 3)
  },
  { immediate: true },
)

watchDebounced(
  [() => ({ ...draft }), sample],
  async () => {
    if (!draft.body || !sample.value.length) return
    const mine = ++asked
    try {
      const got = await of(
        api.POST('/api/libraries/{library}/export-templates/preview', {
          ...library.path(),
          body: { export_template: { ...draft }, preset_ids: sample.value },
        }),
      )
      if (mine === asked) {
        preview.value = got
        problem.value = ''
      }
    } catch (error) {
      if (mine === asked) problem.value = (error as Error).message
    }
  },
  { debounce: 200, deep: true },
)

const keep = () =>
  toast.attempt(async () => {
    const body = { ...draft }
    const kept = chosen.value
      ? await of(api.PUT('/api/export-templates/{id}', { params: { path: { id: chosen.value.id } }, body }))
      : await of(api.POST('/api/libraries/{library}/export-templates', { ...library.path(), body }))
    await load()
    open(kept)
    toast.done(`Template “${kept.name}” saved. It’s included in packages and backups.`)
  })
const drop = () =>
  toast.recorded(async () => {
    const done = await of(api.DELETE('/api/export-templates/{id}', { params: { path: { id: chosen.value!.id } } }))
    await router.replace({ query: {} })
    return done
  })
</script>

<template>
  <div class="page templates">
    <aside>
      <h1>Export templates</h1>
      <p class="soft small">Text templates that export brushes in any format your tools read.</p>
      <button
        v-for="one in exportTemplates"
        :key="one.id"
        class="choice"
        :class="{ on: chosen?.id === one.id }"
        :aria-pressed="chosen?.id === one.id"
        @click="open(one)"
      >
        {{ one.name }}
      </button>
      <h2>Start from an example</h2>
      <button v-for="one in examples" :key="one.name" class="choice" @click="open(one)">{{ one.name }}</button>
    </aside>
    <form @submit.prevent="keep">
      <div class="line">
        <el-input
          v-model="draft.name"
          aria-label="Name of the export template"
          placeholder="Name"
          maxlength="100"
        /><el-button native-type="submit" type="primary" :disabled="!changed || !draft.name.trim()">{{
          chosen ? 'Save' : 'Save template'
        }}</el-button>
      </div>
      <div class="line">
        <el-radio-group v-model="draft.scope" aria-label="Writes"
          ><el-radio value="each">One file per brush</el-radio
          ><el-radio value="set">One file for all brushes</el-radio></el-radio-group
        >
      </div>
      <label>File name<el-input v-model="draft.file" aria-label="File name" maxlength="200" /></label>
      <label class="text"
        >Text<textarea v-model="draft.body" aria-label="Text of the export template" spellcheck="false" />
      </label>
      <div class="line">
        <button type="button" class="plain" :aria-pressed="help" @click="help = !help">Reference</button
        ><span class="grow" /><button v-if="chosen" type="button" class="plain" @click="drop">Delete</button
        ><el-button v-if="chosen" :disabled="changed" @click="writing = true">Export files…</el-button>
      </div>
      <ExportTemplateHelp v-if="help" :limits="limits" />
    </form>
    <section aria-label="Preview">
      <div class="line">
        <h2>Preview</h2>
        <span class="soft">{{ previewed }}</span>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <p v-for="sentence in problem ? [] : preview?.unknown" :key="sentence" class="warning" role="status">
        {{ sentence }}
      </p>
      <div v-for="file in preview?.files" :key="file.name" class="file" :class="{ old: problem }">
        <b>{{ file.name }}</b>
        <pre tabindex="0" :aria-label="file.name">{{ file.text }}</pre>
      </div>
    </section>
    <ExportDialog
      v-if="writing && chosen"
      :which="tray.ids.length ? { preset_ids: tray.ids } : { library: true }"
      :count="tray.ids.length || (library.all?.total ?? 0)"
      kind="export_template"
      :export-template="chosen.id"
      :title="chosen.name"
      @close="writing = false"
    />
  </div>
</template>

<style scoped>
.templates {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr) minmax(0, 1fr);
  gap: 22px;
}
aside h2 {
  font-size: 12px;
  margin: 14px 8px 2px;
  color: var(--soft);
  font-weight: 600;
}
.choice.on {
  font-weight: 700;
}
form {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
}
form > label {
  display: grid;
}
.text {
  flex: 1;
  grid-template-rows: auto 1fr;
  min-height: 220px;
}
textarea,
pre {
  font:
    12px/1.5 ui-monospace,
    'DejaVu Sans Mono',
    monospace;
  tab-size: 2;
}
textarea {
  width: 100%;
  resize: none;
  padding: 8px 10px;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line-strong);
  border-radius: 7px;
  white-space: pre;
  overflow: auto;
}
section {
  min-width: 0;
  overflow: auto;
}
.file {
  margin-top: 8px;
}
.file.old {
  opacity: 0.5;
}
pre {
  margin: 2px 0 0;
  padding: 8px 10px;
  max-height: 46vh;
  overflow: auto;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 7px;
}
.problem {
  color: var(--madder);
  background: var(--madder-wash);
  padding: 8px 12px;
  border-radius: 7px;
  margin: 8px 0 0;
}
.warning {
  color: var(--ochre);
  background: var(--ochre-wash);
  padding: 6px 12px;
  border-radius: 7px;
  margin: 6px 0 0;
}
</style>
