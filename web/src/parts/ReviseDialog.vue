<script setup lang="ts">
import { ref, shallowRef, watch } from 'vue'
import { api, of } from '../api/client'
import type { components, paths } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import { turns } from './newest'
import OneScale from './OneScale.vue'
import Painted from './Painted.vue'
import Strip from './Strip.vue'

/** New settings for many brushes: first a list with the strips before and after, then done, then undo. */
type Body = paths['/api/libraries/{library}/revisions']['post']['requestBody']['content']['application/json']
const props = defineProps<{ title: string; change?: Omit<Body, 'as' | 'preset_ids'>; ids: number[] }>()
const emit = defineEmits<{ close: []; done: [] }>()
const library = useLibrary()
const toast = useToast()
const as = ref<'drafts' | 'editions'>('drafts')
const plan = shallowRef<components['schemas']['Revision']>()
const problem = ref('')
const busy = ref(false)

const ask = (planned: boolean) => of(api.POST('/api/libraries/{library}/revisions', { params: { ...library.path().params, query: planned ? { plan: true } : {} }, body: { ...props.change!, preset_ids: props.ids, as: as.value } }))
const turn = turns()
watch([() => props.change, () => props.ids, as], async () => {
  const mine = turn()
  if (!props.change) return (plan.value = undefined)
  try {
    const got = await ask(true)
    if (!mine()) return
    plan.value = got
    problem.value = ''
  } catch (error) {
    if (!mine()) return
    plan.value = undefined
    problem.value = (error as Error).message
  }
}, { immediate: true, deep: true })

async function go() {
  busy.value = true
  const well = await toast.attempt(async () => {
    const { entry } = await ask(false)
    await library.load()
    toast.done(entry!.summary, entry!)
  })
  busy.value = false
  if (well) { emit('done'); emit('close') }
}
</script>

<template>
  <el-dialog model-value :title="title" width="780px" @close="emit('close')">
    <slot />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="plan">
      <p><b>{{ plan.count }} of {{ ids.length }}</b> {{ plan.count === 1 ? 'brush would change' : 'brushes would change' }}{{ plan.count > plan.rows.length ? `; the first ${plan.rows.length} are shown` : '' }}.</p>
      <div class="rows">
        <OneScale v-for="row in plan.rows" :key="row.id"><div class="row"><span><b>{{ row.name }}</b><br><span class="soft small">{{ row.words.join(', ') }}</span></span><Strip :fingerprint="row.before" :greatest="row.greatest" :label="`${row.name} now`" /><Painted :ask="{ document: row.document }" :label="`${row.name} then`" /></div></OneScale>
      </div>
    </template>
    <template #footer>
      <el-radio-group v-model="as" class="as" aria-label="How to keep it"><el-radio value="drafts">as my drafts</el-radio><el-radio value="editions">as next editions, for everybody</el-radio></el-radio-group>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :disabled="!plan?.count" :loading="busy" @click="go">Change {{ plan?.count ?? 0 }} {{ plan?.count === 1 ? 'brush' : 'brushes' }}</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.rows { max-height: 44vh; overflow: auto; }
.row { display: grid; grid-template-columns: 180px 1fr 1fr; gap: 10px; align-items: center; padding: 4px 0; }
.row :deep(.painted) { height: auto; aspect-ratio: 700 / 120; }
.as { float: left; }
p { margin: 8px 0; }
.problem { color: var(--madder); }
</style>
