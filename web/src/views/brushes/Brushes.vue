<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type Preset } from '../../api/client'
import type { Term, TermName } from '../../parts/asks'
import ResetDialog from '../../parts/ResetDialog.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import Facets from './Facets.vue'
import KeepSearch from './KeepSearch.vue'
import Peek from './Peek.vue'
import TableHead from './TableHead.vue'
import { useColumns } from './useColumns'
import { useFound } from './useFound'
import { useInSight } from './useInSight'
import { usePicking } from './usePicking'
import { useBrushesLook } from './useBrushesLook'
import BrushesBar from './BrushesBar.vue'
import BrushRow from './BrushRow.vue'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const look = useBrushesLook()
const resetting = ref(false)
const naming = ref(false)
const list = ref<HTMLElement>()
const room = useElementSize(list)

const q = computed(() => String(route.query.search ?? ''))
// The question as the server understood it; it decides the order, which is part of the next question.
const understood = shallowRef<Term[]>([])
const set = computed(() => {
  const term = understood.value.filter(({ name, negated }) => name === 'set' && !negated)
  return term.length === 1 && term[0]!.values.length === 1
    ? library.sets.find(({ name, query }) => query === null && name.toLowerCase() === term[0]!.values[0]!.toLowerCase())
    : undefined
})
const ORDERS = computed(() => [
  ...(set.value ? [['own', `in the order of “${set.value.name}”`]] : []),
  ['name', 'by name'],
  ['category', 'by category'],
  ['changed', 'by last change'],
  ['size', 'by size'],
  ['colour', 'by colour'],
  ['use', 'by use'],
])
/** The order in the address; one that isn't offered here gives the usual one. */
const order = computed(
  () => ORDERS.value.find(([name]) => name === route.query.order)?.[0] ?? (set.value ? 'own' : 'name'),
)
const found = useFound(() => ({
  q: q.value,
  order: order.value,
  set: order.value === 'own' ? set.value?.id : undefined,
}))
const { total, tolerant, query, terms, problem } = found
watch(terms, (now) => (understood.value = now))

const chosenOrder = computed({ get: () => order.value, set: (value: string) => put({ order: value }) })

const put = (change: Record<string, string | undefined>) => router.push({ query: { ...route.query, ...change } })
/** One click after the other, each on the line as the one before left it. */
let toggling: Promise<unknown> = Promise.resolve()
const toggle = (term: TermName, value: string) =>
  (toggling = toggling.then(() =>
    toast.attempt(async () => {
      const asked = { params: { ...library.path().params, query: { q: q.value, term, value } } }
      const { line } = await of(api.GET('/api/libraries/{library}/brushes/line', asked))
      await put({ search: line || undefined })
    }),
  ))

const columns = useColumns(look, room.width)
const { tallest, strip, below, lanes, tall } = columns
const { virtual, items, place, firstInSight, scrollTo } = useInSight(list, room, found, columns)

function open(preset: Preset) {
  keepPlace()
  router.push({ name: 'bench', params: { id: preset.id } })
}

const { peeked, at, peek, click, all } = usePicking(list, room, found, { virtual }, { lanes, tall, q }, open)

// The place is kept for coming back.
const placeKey = computed(() => `fobrel.place.${session.libraryId}.${q.value}.${order.value}`)
watch(
  total,
  async (now, before) => {
    if (now === undefined || before !== undefined) return
    await nextTick()
    const [first, id] = (sessionStorage.getItem(placeKey.value) ?? '0').split('|')
    await scrollTo(Number(first))
    if (id) peeked.value = Number(id)
  },
  { immediate: true },
)
const keepPlace = () => list.value && sessionStorage.setItem(placeKey.value, `${firstInSight()}|${peeked.value ?? ''}`)
onBeforeUnmount(keepPlace)

/** On a narrow page the filters stand closed above the brushes. */
const filtering = ref(false)
const narrowed = computed(() => !!q.value)
</script>

<template>
  <div class="brushes" :class="{ filtering }">
    <button class="plain filters" :aria-expanded="filtering" @click="filtering = !filtering">
      {{ filtering ? 'Close the filters' : 'Filters' }}
    </button>
    <Facets :query="query" :terms="terms" @toggle="toggle" />
    <section>
      <BrushesBar
        v-model:order="chosenOrder"
        v-model:look="look"
        :total="total"
        :unanswered="!!problem"
        :orders="ORDERS"
        :tallest="tallest"
        @take-back="resetting = true"
        @pick-all="all"
      />
      <div v-if="narrowed" class="chips line">
        <button
          v-for="term in terms"
          :key="term.words"
          class="chip"
          :aria-label="`Remove “${term.words}”`"
          @click="put({ search: term.without || undefined })"
        >
          {{ term.words }} ✕
        </button>
        <button class="plain" @click="put({ search: undefined })">Show all</button
        ><button v-if="session.mayEdit && !problem && !naming" class="plain" @click="naming = true">Save search</button>
      </div>
      <KeepSearch v-if="naming" :query="query" @close="naming = false" />
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <p v-else-if="tolerant && total" class="soft hint">No exact match. Similar brushes:</p>
      <TableHead v-if="look.mode === 'table'" :columns="look.columns" />
      <div
        ref="list"
        class="list"
        :class="[look.mode, `on-${look.ground}`, { below }]"
        role="grid"
        aria-label="Brushes"
        aria-multiselectable="true"
        :aria-rowcount="total"
      >
        <div role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
          <div
            v-for="item in items"
            :key="item.index"
            class="row"
            :class="{ on: item.preset && item.preset.id === peek?.id, picked: item.preset && tray.has(item.preset.id) }"
            role="row"
            :aria-selected="!!item.preset && tray.has(item.preset.id)"
            :aria-rowindex="item.index + 1"
            :data-index="item.index"
            :data-id="item.preset?.id"
            :tabindex="item.index === at ? 0 : -1"
            :style="place(item)"
            @click="item.preset && click($event, item.index, item.preset)"
            @dblclick="item.preset && open(item.preset)"
          >
            <div class="all" role="gridcell">
              <BrushRow v-if="item.preset" :preset="item.preset" :look="look" :strip="strip" />
              <div v-else class="shape" :style="{ width: `${strip}px` }" />
            </div>
          </div>
        </div>
        <div v-if="total === undefined && !problem" class="to-come" aria-hidden="true">
          <div v-for="index in 8" :key="index" class="shape" :style="{ width: `${strip}px` }" />
        </div>
        <div v-if="total === 0 && narrowed" class="empty">
          <p>No brushes match.</p>
          <el-button @click="put({ search: undefined })">Show all brushes</el-button>
        </div>
        <div v-else-if="total === 0" class="empty">
          <p>No brushes yet. Drop a picture to make one, or a package to import.</p>
          <el-button type="primary" @click="router.push({ name: 'tip-maker' })">Make a brush</el-button>
        </div>
      </div>
    </section>
    <Peek v-if="peek" :key="peek.id" :preset="peek" @open="open(peek)" />
    <ResetDialog v-if="resetting" @close="resetting = false" />
  </div>
</template>

<style scoped>
/* Where a strip will be. */
.shape {
  height: 60px;
  max-width: 100%;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 6px;
  opacity: 0.6;
}
.to-come {
  display: grid;
  gap: 14px;
  padding: 8px;
}
/* Of one cell to those who hear it; its parts stand in the row's own columns. */
.all {
  display: contents;
}
.brushes {
  display: grid;
  grid-template-columns: 172px minmax(0, 1fr) 300px;
  height: 100%;
}
section {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.chips {
  flex-wrap: wrap;
  padding: 0 14px 6px;
}
.chip {
  font: inherit;
  font-weight: 600;
  color: var(--accent);
  background: var(--accent-wash);
  border: 0;
  border-radius: 5px;
  padding: 2px 8px;
  cursor: pointer;
}
.hint,
.problem {
  margin: 0;
  padding: 0 14px 6px;
}
.problem {
  color: var(--madder);
}
.list {
  flex: 1;
  overflow: auto;
  padding: 0 8px;
}
.list.on-grey {
  --strip: #808080;
}
.list.on-black {
  --strip: #000;
}
.row {
  position: absolute;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 6px;
  border-radius: 8px;
  cursor: default;
}
.row:hover {
  background: var(--card);
}
.row.on {
  background: var(--accent-wash);
}
.below .row {
  flex-direction: column;
  align-items: flex-start;
  justify-content: center;
  gap: 3px;
}
.filters {
  display: none;
}
@media (max-width: 820px) {
  .brushes {
    grid-template: auto auto minmax(140px, 1fr) auto / minmax(0, 1fr);
    overflow: auto;
  }
  .filters {
    display: block;
    justify-self: start;
    padding: 4px 14px;
  }
  .brushes:not(.filtering) > :deep(aside[aria-label='Filters']) {
    display: none;
  }
  .brushes > :deep(aside[aria-label='Filters']) {
    max-height: 34vh;
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
  .brushes > :deep(.peek) {
    max-height: 34vh;
    border-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
