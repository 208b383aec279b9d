<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { api, of } from '../api/client'
import type { components, paths } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import FormDialog from './FormDialog.vue'
import { turns } from './newest'
import OneScale from './OneScale.vue'
import Painted from './Painted.vue'
import Strip from './Strip.vue'
import { useDeed } from './useDeed'

/** New settings for many brushes: first a list with the strips before and after, then done, then undo. */
type Body = paths['/api/libraries/{library}/revisions']['post']['requestBody']['content']['application/json']
const props = defineProps<{ title: string; change?: Omit<Body, 'as' | 'preset_ids'>; ids: number[] }>()
const emit = defineEmits<{ close: []; done: [] }>()
const library = useLibrary()
const toast = useToast()
const as = ref<'drafts' | 'versions'>('drafts')
const plan = shallowRef<components['schemas']['Revision']>()
const problem = ref('')

const ask = (planned: boolean) =>
  of(
    api.POST('/api/libraries/{library}/revisions', {
      params: { ...library.path().params, query: planned ? { plan: true } : {} },
      body: { ...props.change!, preset_ids: props.ids, as: as.value },
    }),
  )
/** How many is known only when they were counted. */
const counting = ref(false)
const turn = turns()
watch(
  [() => props.change, () => props.ids, as],
  async () => {
    const mine = turn()
    if (!props.change) return (plan.value = undefined)
    counting.value = true
    try {
      const got = await ask(true)
      if (!mine()) return
      plan.value = got
      problem.value = ''
    } catch (error) {
      if (!mine()) return
      plan.value = undefined
      problem.value = (error as Error).message
    } finally {
      if (mine()) counting.value = false
    }
  },
  { immediate: true, deep: true },
)

const {
  busy,
  problem: failed,
  go,
} = useDeed(async () => {
  const { entry } = await ask(false)
  await library.load()
  toast.done(entry!.summary, entry!)
  emit('done')
  emit('close')
})
const deed = computed(() =>
  plan.value && !counting.value
    ? `Change ${plan.value.count} ${plan.value.count === 1 ? 'brush' : 'brushes'}`
    : counting.value
      ? 'Counting…'
      : 'Change',
)
</script>

<template>
  <FormDialog
    :title="title"
    :deed="deed"
    width="780px"
    :busy="busy"
    :ready="!!plan?.count"
    :problem="problem || failed"
    @submit="go"
    @close="emit('close')"
  >
    <slot />
    <template v-if="plan">
      <p>
        <b>{{ plan.count }} of {{ ids.length }}</b> {{ plan.count === 1 ? 'brush would change' : 'brushes would change'
        }}{{ plan.count > plan.rows.length ? `; the first ${plan.rows.length} are shown` : '' }}.
      </p>
      <div class="rows">
        <OneScale v-for="row in plan.rows" :key="row.id"
          ><div class="row">
            <span
              ><b>{{ row.name }}</b
              ><br /><span class="soft small">{{ row.words.join(', ') }}</span></span
            ><Strip :fingerprint="row.before" :greatest="row.greatest" :label="`${row.name} now`" /><Painted
              :ask="{ document: row.document }"
              :label="`${row.name} then`"
            /></div
        ></OneScale>
      </div>
    </template>
    <template #beside>
      <el-radio-group v-model="as" class="grow" aria-label="How to save it"
        ><el-radio value="drafts">As my drafts</el-radio
        ><el-radio value="versions">As new versions, for everybody</el-radio></el-radio-group
      >
    </template>
  </FormDialog>
</template>

<style scoped>
.rows {
  max-height: 44vh;
  overflow: auto;
}
.row {
  display: grid;
  grid-template-columns: 180px 1fr 1fr;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
}
.row :deep(.painted) {
  height: auto;
  aspect-ratio: 700 / 120;
}
</style>
