<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import { api, of, type Which } from '../api/client'
import type { components } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import FormDialog from './FormDialog.vue'
import { saveExport } from './save'
import { useDeed } from './useDeed'

/** Writes brushes as a file, in one of several forms. The choices are remembered. */
type Kind = 'package' | 'kit' | 'proof' | 'inventory' | 'export_template'
const props = defineProps<{ which: Which; count: number; title: string; kind?: Kind; exportTemplate?: number }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const SHOWN = ['size', 'version', 'keys', 'traits', 'licence', 'notes'] as const
const remembered = useLocalStorage(
  'fobrel.export',
  {
    kind: 'package' as Kind,
    exportTemplates: false,
    exportTemplate: 0,
    format: 'pdf' as 'pdf' | 'png',
    page: 'A4' as 'A4' | 'A3' | 'Letter',
    landscape: false,
    columns: 2,
    ground: 'white' as 'white' | 'grey' | 'black',
    shown: [...SHOWN] as (typeof SHOWN)[number][],
  },
  { mergeDefaults: true },
)
const choice = remembered.value
const kind = ref<Kind>(props.kind ?? choice.kind)
const name = ref(props.title)
const exportTemplates = ref<components['schemas']['KeptExportTemplate'][]>([])
const exportTemplate = ref<number | undefined>(props.exportTemplate ?? (choice.exportTemplate || undefined))
const KINDS: Record<Kind, [name: string, said: string]> = {
  package: [
    'a package',
    'The brushes with their pictures and tags; for a set also its order and sections. Any unzip opens it.',
  ],
  kit: [
    'a kit of plain files',
    'A ZIP with each tip as PNG, black on white and on nothing, each grain and shape, the strips, and all settings ' +
      'as a table and as JSON.',
  ],
  proof: ['a proof sheet', 'A page to print: strips with names, sizes, versions, keys, traits, licences and notes.'],
  inventory: ['an inventory', 'One CSV table: name, size, category, tags, traits, licence, where each is used.'],
  export_template: ['files from a template', 'Text files in any format your tools read.'],
}
const shownKinds = computed(() =>
  (Object.keys(KINDS) as Kind[]).filter((one) => one !== 'export_template' || exportTemplates.value.length),
)
const naming = computed(() =>
  kind.value === 'proof' ? 'Title of the sheet' : kind.value === 'package' ? 'Name of the package' : 'Name of the file',
)
const ready = computed(
  () =>
    name.value.trim() !== '' &&
    (kind.value !== 'export_template' || exportTemplates.value.some(({ id }) => id === exportTemplate.value)),
)
const counted = computed(() => `${props.count} ${props.count === 1 ? 'brush' : 'brushes'}`)

onMounted(() =>
  toast.attempt(async () => {
    exportTemplates.value = (
      await of(api.GET('/api/libraries/{library}/export-templates', library.path()))
    ).export_templates
    if (!exportTemplates.value.some(({ id }) => id === exportTemplate.value))
      exportTemplate.value = exportTemplates.value[0]?.id
    if (kind.value === 'export_template' && !exportTemplates.value.length) kind.value = 'package'
  }),
)

const { busy, problem, go } = useDeed(async () => {
  remembered.value = { ...choice, kind: kind.value, exportTemplate: exportTemplate.value ?? 0 }
  const { format, page, landscape, columns, ground, shown } = choice
  const options =
    kind.value === 'proof'
      ? { format, page, landscape, columns, ground, shown }
      : kind.value === 'package'
        ? { export_templates: choice.exportTemplates }
        : kind.value === 'export_template'
          ? { export_template: exportTemplate.value }
          : {}
  const answer = await api.POST('/api/libraries/{library}/exports', {
    ...library.path(),
    body: { kind: kind.value, name: name.value, of: props.which, options },
    parseAs: 'blob',
  })
  const file = await saveExport(answer)
  toast.done(`${counted.value} exported as ${file}. It’s in your downloads, and listed under Export.`)
  emit('close')
})
</script>

<template>
  <FormDialog
    :title="`${kind === 'proof' ? 'Proof sheet of' : 'Export'} ${counted}`"
    :deed="kind === 'proof' ? 'Make the sheet' : 'Export'"
    :busy="busy"
    :ready="ready"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <el-radio-group v-model="kind" aria-label="Export as" class="kinds"
      ><el-radio v-for="one in shownKinds" :key="one" :value="one">{{ KINDS[one][0] }}</el-radio></el-radio-group
    >
    <p class="soft">{{ KINDS[kind][1] }}</p>
    <label>{{ naming }}<el-input v-model="name" :aria-label="naming" maxlength="100" /></label>
    <el-checkbox
      v-if="kind === 'package' && exportTemplates.length"
      v-model="choice.exportTemplates"
      :label="
        exportTemplates.length === 1
          ? 'with the export template'
          : `with all ${exportTemplates.length} export templates`
      "
    />
    <el-select v-if="kind === 'export_template'" v-model="exportTemplate" aria-label="Export template"
      ><el-option v-for="one in exportTemplates" :key="one.id" :value="one.id" :label="one.name"
    /></el-select>
    <template v-if="kind === 'proof'">
      <div class="line">
        As
        <el-radio-group v-model="choice.format" aria-label="File"
          ><el-radio value="pdf">PDF</el-radio><el-radio value="png">PNG pages in a ZIP</el-radio></el-radio-group
        >
      </div>
      <div class="line">
        <el-select v-model="choice.page" aria-label="Page size"
          ><el-option v-for="one in ['A4', 'A3', 'Letter']" :key="one" :value="one" :label="one" /></el-select
        ><el-checkbox v-model="choice.landscape" label="sideways" /><el-select
          v-model="choice.columns"
          aria-label="Columns"
          ><el-option v-for="n in 4" :key="n" :value="n" :label="n === 1 ? '1 column' : `up to ${n} columns`"
        /></el-select>
      </div>
      <div class="line">
        Ground
        <el-radio-group v-model="choice.ground" aria-label="Ground"
          ><el-radio v-for="one in ['white', 'grey', 'black']" :key="one" :value="one">{{
            one
          }}</el-radio></el-radio-group
        >
      </div>
      <el-checkbox-group v-model="choice.shown" aria-label="Shown under each strip"
        ><el-checkbox v-for="one in SHOWN" :key="one" :value="one" :label="one"
      /></el-checkbox-group>
    </template>
  </FormDialog>
</template>

<style scoped>
.kinds {
  gap: 0 16px;
}
.kinds :deep(.el-radio) {
  margin-right: 0;
}
</style>
