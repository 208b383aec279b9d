<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type BrushSet } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import type { useArranged } from '../../parts/useArranged'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** Asks for what a deed on a set needs, and does it. */
export type What = 'name' | 'copy' | 'split' | 'join' | 'subtract' | 'beside' | 'delete'
const props = defineProps<{
  what: What
  set: BrushSet
  /** What it holds, in order. */ held: number[]
  /** Where it is split. */ splitAt: number
  arranged: ReturnType<typeof useArranged>
}>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const router = useRouter()
const NAMES: Partial<Record<What, string>> = {
  name: props.set.name,
  copy: `${props.set.name}, copy`,
  split: `${props.set.name}, rest`,
}
const word = ref(NAMES[props.what] ?? '')
const line = ref(props.set.query ?? '')
const other = ref<number>()
const others = computed(() => library.sets.filter(({ id }) => id !== props.set.id))
const asksForOther = computed(() => ['join', 'subtract', 'beside'].includes(props.what))
const ready = computed(() =>
  asksForOther.value ? other.value !== undefined : props.what === 'delete' || word.value.trim() !== '',
)
const TITLES: Record<What, [string, string]> = {
  name: ['Rename', 'Rename'],
  copy: ['Copy to a new set', 'Copy'],
  split: ['Split in two', 'Split'],
  join: ['Join another set', 'Join'],
  subtract: ['Remove brushes in another set', 'Remove'],
  beside: ['Open another set beside it', 'Show it'],
  delete: ['Delete the set', 'Delete'],
}
const idsOf = async (set: BrushSet) =>
  set.query === null
    ? set.preset_ids
    : (
        await of(
          api.GET('/api/libraries/{library}/brushes/ids', {
            params: { ...library.path().params, query: { q: set.query } },
          }),
        )
      ).ids

const at = (set: BrushSet) => ({ params: { path: { id: set.id } } })
const picked = () => library.sets.find(({ id }) => id === other.value)!
const deeds: Record<What, (set: BrushSet) => Promise<unknown>> = {
  async name(set) {
    await of(
      api.PUT('/api/sets/{id}/name', {
        ...at(set),
        body: { name: word.value, ...(set.query !== null ? { query: line.value } : {}) },
      }),
    )
    await library.load()
  },
  async copy(set) {
    const made = await of(
      api.POST('/api/libraries/{library}/sets', {
        ...library.path(),
        body: { name: word.value, preset_ids: props.held, sections: set.sections },
      }),
    )
    await library.load()
    await router.push({ query: { set: made.id } })
  },
  async split(set) {
    const done = await of(
      api.POST('/api/sets/{id}/split', {
        ...at(set),
        body: { name: word.value, preset_ids: set.preset_ids.slice(props.splitAt), before: set.preset_ids },
      }),
    )
    await library.load()
    toast.done(done.entry.summary, done.entry)
    await router.push({ query: { set: set.id, beside: done.set.id } })
  },
  async join(set) {
    await props.arranged.put(set.id, set.preset_ids, {
      ids: [...new Set([...set.preset_ids, ...(await idsOf(picked()))])],
    })
  },
  async subtract(set) {
    const gone = new Set(await idsOf(picked()))
    await props.arranged.put(set.id, set.preset_ids, { ids: set.preset_ids.filter((id) => !gone.has(id)) })
  },
  async beside(set) {
    await router.push({ query: { set: set.id, beside: other.value } })
  },
  async delete(set) {
    const { entry } = await of(api.DELETE('/api/sets/{id}', at(set)))
    await router.replace({ query: {} })
    await library.load()
    toast.done(entry.summary, entry)
  },
}
const { busy, problem, go } = useDeed(async () => {
  await deeds[props.what](props.set)
  emit('close')
})
</script>

<template>
  <FormDialog
    :title="`${TITLES[what][0]}: ${set.name}`"
    :deed="TITLES[what][1]"
    width="420px"
    :busy="busy"
    :ready="ready"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <p v-if="what === 'delete'" class="soft">Its brushes stay. This can be undone.</p>
    <el-select
      v-else-if="asksForOther"
      v-model="other"
      filterable
      default-first-option
      aria-label="The other set"
      placeholder="The other set"
      ><el-option v-for="one in others" :key="one.id" :value="one.id" :label="`${one.name} (${one.count})`"
    /></el-select>
    <el-input v-else v-model="word" aria-label="Name of the set" maxlength="100" />
    <el-input v-if="what === 'name' && set.query !== null" v-model="line" aria-label="Search" maxlength="500" />
    <p v-if="what === 'beside'" class="soft">Drag brushes between the lists; hold Ctrl to copy.</p>
    <p v-if="what === 'split'" class="soft">
      {{ splitAt }} stay in “{{ set.name }}”, {{ set.preset_ids.length - splitAt }} go to the new set.
    </p>
  </FormDialog>
</template>
