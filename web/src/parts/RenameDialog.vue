<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'
import FormDialog from './FormDialog.vue'
import { turns } from './newest'
import { useDeed } from './useDeed'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'

/** New names for many: rules at the top, a live table of old and new below, clashes marked. */
const props = defineProps<{ ids: number[] }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const rules = reactive({
  name: '',
  find: '',
  replace: '',
  prefix: '',
  suffix: '',
  case: 'keep' as 'keep' | 'lower' | 'upper' | 'title' | 'sentence',
  tag: false,
})
const numbered = ref(false)
const number = reactive({ start: 1, width: 2 })
const rows = shallowRef<components['schemas']['Renames']['rows']>([])
const problem = ref('')
const changed = computed(() => rows.value.filter(({ from, to }) => from !== to))
const clashes = computed(() => changed.value.filter(({ clash }) => clash))
const SHOWN = 300

const send = (plan: boolean) =>
  of(
    api.POST('/api/libraries/{library}/renames', {
      params: { ...library.path().params, query: plan ? { plan: true } : {} },
      body: {
        preset_ids: props.ids,
        rules: { ...rules, name: rules.name.trim() || undefined, number: numbered.value ? { ...number } : null },
      },
    }),
  )
const turn = turns()
const look = useDebounceFn(async () => {
  const mine = turn()
  try {
    const got = (await send(true)).rows
    if (mine()) [rows.value, problem.value] = [got, '']
  } catch (error) {
    if (mine()) problem.value = (error as Error).message
  }
}, 120)
// One name for all needs a number to tell them apart.
watch(
  () => rules.name,
  (name) => {
    if (name.trim() && props.ids.length > 1) numbered.value = true
  },
)
watch([rules, numbered, number], look, { immediate: true, deep: true })

const {
  busy,
  problem: failed,
  go,
} = useDeed(async () => {
  const { entry } = await send(false)
  await library.load()
  toast.done(entry!.summary, entry!)
  emit('close')
})
</script>

<template>
  <FormDialog
    :title="`Rename ${ids.length} ${ids.length === 1 ? 'brush' : 'brushes'}`"
    :deed="changed.length ? `Rename ${changed.length}` : 'Rename'"
    width="680px"
    :busy="busy"
    :ready="!!changed.length && !clashes.length"
    :problem="problem || failed"
    @submit="go"
    @close="emit('close')"
  >
    <div class="rules">
      <label
        >One name for all<el-input
          v-model="rules.name"
          size="small"
          aria-label="One name for all"
          placeholder="theirs"
          maxlength="190"
      /></label>
      <label>Find<el-input v-model="rules.find" size="small" aria-label="Find" /></label
      ><label>Replace with<el-input v-model="rules.replace" size="small" aria-label="Replace with" /></label>
      <label>Before<el-input v-model="rules.prefix" size="small" aria-label="Before the name" /></label
      ><label>After<el-input v-model="rules.suffix" size="small" aria-label="After the name" /></label>
      <label
        >Letters<el-select v-model="rules.case" size="small" aria-label="Letters"
          ><el-option value="keep" label="unchanged" /><el-option value="lower" label="small" /><el-option
            value="upper"
            label="capital" /><el-option value="title" label="Each Word" /><el-option
            value="sentence"
            label="First word" /></el-select
      ></label>
      <label class="line"
        ><el-switch v-model="rules.tag" size="small" aria-label="First tag before the name" /> first tag before</label
      >
      <label class="line"><el-switch v-model="numbered" size="small" aria-label="Number them" /> number</label>
      <span v-if="numbered" class="line"
        >from
        <el-input-number
          v-model="number.start"
          size="small"
          :min="0"
          :max="999999"
          :controls="false"
          aria-label="First number"
        />
        in
        <el-input-number v-model="number.width" size="small" :min="1" :max="6" :controls="false" aria-label="Digits" />
        digits</span
      >
    </div>
    <p class="soft">
      {{ changed.length }} would change<template v-if="clashes.length"
        >, <b class="problem">{{ clashes.length }} in the way of another</b></template
      >{{ rows.length > SHOWN ? `; the first ${SHOWN} are shown` : '' }}
    </p>
    <div class="rows">
      <div v-for="row in rows.slice(0, SHOWN)" :key="row.id" class="row" :class="{ same: row.from === row.to }">
        <span>{{ row.from }}</span><span aria-hidden="true">→</span><b>{{ row.to || '(empty)' }}</b
        ><span v-if="row.clash && row.from !== row.to" class="missing">{{ row.clash }}</span>
      </div>
    </div>
  </FormDialog>
</template>

<style scoped>
.rules {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 8px 12px;
  align-items: end;
  white-space: normal;
}
.rules .el-input-number {
  width: 52px;
}
.rows {
  max-height: 40vh;
  overflow: auto;
}
.row {
  display: grid;
  grid-template-columns: 1fr 16px 1fr 80px;
  gap: 8px;
  padding: 2px 0;
  border-top: 1px solid var(--line);
}
.row.same {
  color: var(--soft);
}
.problem {
  color: var(--madder);
}
</style>
