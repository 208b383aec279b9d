<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type Entry } from '../api/client'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import { useTray } from '../stores/tray'
import FormDialog from './FormDialog.vue'
import UsedWhere from './UsedWhere.vue'
import { useDeed } from './useDeed'

/** Asks for what a deed on all picked brushes needs, and does it. */
export type Question = 'bundle' | 'tag' | 'set' | 'category' | 'status' | 'hide' | 'duplicate'
const props = defineProps<{ asking: Question }>()
const emit = defineEmits<{ close: [] }>()
const tray = useTray()
const library = useLibrary()
const toast = useToast()
const router = useRouter()
const NONE = 'none'
const word = ref(['category', 'status'].includes(props.asking) ? NONE : '')
const place = ref<number | 'end'>('end')
const questions: Record<Question, [title: string, deed: string, ask: string]> = {
  bundle: ['New bundle', 'Create', 'Name of the bundle'],
  tag: ['Tag', 'Tag', 'Existing or new tag'],
  set: ['Add to set', 'Add', 'Existing or new set'],
  category: ['Set category', 'Set', 'Category'],
  status: ['Status', 'Set', 'Status'],
  hide: ['Hide brushes', 'Hide', ''],
  duplicate: ['Duplicate', 'Duplicate', ''],
}

const count = (n: number) => `${n} ${n === 1 ? 'brush' : 'brushes'}`
const target = computed(() =>
  library.sets.find(({ name, query }) => query === null && name.toLowerCase() === word.value.trim().toLowerCase()),
)
const places = computed(() => (target.value?.preset_ids ?? []).flatMap((id) => library.byId.get(id) ?? []))
const plain = computed(() => library.sets.filter(({ query }) => query === null))
const chooseSet = () => {
  place.value = 'end'
  library.need(target.value?.preset_ids ?? [])
}

/** Categories in the order of the tree, named with those above them. */
const categoryNames = computed(() => {
  const name = (id: number | null): string => {
    const category = id === null ? undefined : library.categoryById.get(id)
    return category ? `${name(category.parent_id)}${category.parent_id ? ' / ' : ''}${category.name}` : ''
  }
  return library.categories.map(({ id }) => ({ id, name: name(id) })).sort((a, b) => a.name.localeCompare(b.name))
})

async function entered(answer: Promise<{ entry: Entry }>) {
  const { entry } = await answer
  await library.load()
  toast.done(entry.summary, entry)
}
const body = () => ({ preset_ids: tray.ids })
const placed = (kind: 'category' | 'status') => {
  const at = word.value === NONE ? null : Number(word.value)
  return entered(
    of(api.POST('/api/libraries/{library}/placings', { ...library.path(), body: { kind, place: at, ...body() } })),
  )
}
const deeds: Record<Question, () => Promise<unknown>> = {
  tag: () =>
    entered(
      of(
        api.POST('/api/libraries/{library}/taggings', {
          ...library.path(),
          body: { tag: word.value.trim(), ...body() },
        }),
      ),
    ),
  category: () => placed('category'),
  status: () => placed('status'),
  // What was hidden leaves the tray, all of it.
  async hide() {
    const hidden = new Set(tray.ids)
    await entered(of(api.POST('/api/libraries/{library}/hidings', { ...library.path(), body: body() })))
    tray.put(tray.ids.filter((id) => !hidden.has(id)))
  },
  duplicate: () => entered(of(api.POST('/api/libraries/{library}/copies', { ...library.path(), body: body() }))),
  async bundle() {
    const made = await of(
      api.POST('/api/libraries/{library}/bundles', { ...library.path(), body: { name: word.value.trim(), ...body() } }),
    )
    toast.done(`Bundle “${made.name}” created with ${count(made.preset_ids.length)}.`)
    await router.push({ name: 'bundles', query: { bundle: made.id } })
  },
  async set() {
    const found = target.value
    if (found) {
      const rest = found.preset_ids.filter((id) => !tray.ids.includes(id))
      const at = place.value === 'end' ? rest.length : rest.indexOf(place.value)
      const ids = at < 0 ? [...rest, ...tray.ids] : [...rest.slice(0, at), ...tray.ids, ...rest.slice(at)]
      const { entry } = await of(
        api.PUT('/api/sets/{id}', {
          params: { path: { id: found.id } },
          body: { preset_ids: ids, before: found.preset_ids },
        }),
      )
      toast.done(entry.summary, entry)
    } else {
      await of(
        api.POST('/api/libraries/{library}/sets', { ...library.path(), body: { name: word.value.trim(), ...body() } }),
      )
      toast.done(`The set “${word.value.trim()}” holds ${count(tray.ids.length)}.`)
    }
    await library.load()
  },
}
const ready = computed(() => props.asking === 'hide' || props.asking === 'duplicate' || word.value.trim() !== '')

const { busy, problem, go } = useDeed(async () => {
  await deeds[props.asking]()
  emit('close')
})

const suggest = (text: string, give: (found: { value: string }[]) => void) => {
  const names = props.asking === 'tag' ? library.tags.map(({ name }) => name) : plain.value.map(({ name }) => name)
  give(names.filter((name) => name.toLowerCase().includes(text.toLowerCase())).map((value) => ({ value })))
}
</script>

<template>
  <FormDialog
    :title="`${questions[asking][0]}: ${count(tray.ids.length)}`"
    :deed="questions[asking][1]"
    width="420px"
    :busy="busy"
    :ready="ready"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <p v-if="asking === 'hide'" class="soft">
      Hidden brushes can be restored any time. They keep their places in sets and start-up plans.
    </p>
    <UsedWhere v-if="asking === 'hide'" :ids="tray.ids" />
    <p v-else-if="asking === 'duplicate'" class="soft">
      Each copy gets the next number and keeps its tags, category and status.
    </p>
    <el-input
      v-if="asking === 'bundle'"
      v-model="word"
      :placeholder="questions[asking][2]"
      :aria-label="questions[asking][2]"
      maxlength="100"
    />
    <el-select
      v-if="asking === 'category'"
      v-model="word"
      filterable
      default-first-option
      :aria-label="questions[asking][2]"
      ><el-option :value="NONE" label="no category" /><el-option
        v-for="one in categoryNames"
        :key="one.id"
        :value="String(one.id)"
        :label="one.name"
    /></el-select>
    <el-select v-else-if="asking === 'status'" v-model="word" :aria-label="questions[asking][2]"
      ><el-option :value="NONE" label="none" /><el-option
        v-for="one in library.statuses"
        :key="one.id"
        :value="String(one.id)"
        :label="one.name"
    /></el-select>
    <div v-if="asking === 'tag' || asking === 'set'" v-suggests>
      <el-autocomplete
        v-model="word"
        :placeholder="questions[asking][2]"
        :aria-label="questions[asking][2]"
        :fetch-suggestions="suggest"
        maxlength="60"
        class="wide"
        @change="chooseSet"
        @select="chooseSet"
      />
    </div>
    <p
      v-if="asking === 'tag' && library.statuses.some(({ name }) => name.toLowerCase() === word.trim().toLowerCase())"
      class="soft"
    >
      “{{ word.trim() }}” is also a status. To set the status, choose Set status under More.
    </p>
    <label v-if="asking === 'set' && target" class="soft"
      >Place<el-select v-model="place" aria-label="Place in the set" filterable default-first-option
        ><el-option v-for="one in places" :key="one.id" :value="one.id" :label="`before ${one.name}`" /><el-option
          value="end"
          label="at the end" /></el-select
    ></label>
  </FormDialog>
</template>

<style scoped>
.wide {
  width: 100%;
}
</style>
