<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize, useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type Preset } from '../../api/client'
import { intoList } from '../../parts/intoList'
import Grounds from '../../parts/Grounds.vue'
import ResetDialog from '../../parts/ResetDialog.vue'
import Strip from '../../parts/Strip.vue'
import TagMark from '../../parts/TagMark.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import Facets from './Facets.vue'
import Peek from './Peek.vue'
import { termsOf, toggled, without } from './terms'
import { useColumns } from './useColumns'
import { useFound } from './useFound'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const look = useLocalStorage('fobrel.wall', {
  mode: 'strips' as 'strips' | 'rows' | 'table',
  height: 62,
  ground: 'white' as 'white' | 'grey' | 'black',
  columns: ['size', 'family', 'tags', 'traits', 'changed'],
})
const resetting = ref(false)
const naming = ref<string>()
const list = ref<HTMLElement>()
const room = useElementSize(list)

const q = computed(() => String(route.query.search ?? ''))
// The question as the server understood it; it decides the order, which is part of the next question.
const understood = ref('')
const set = computed(() => {
  const term = termsOf(understood.value).filter(({ name, negated }) => name === 'set' && !negated)
  return term.length === 1 && term[0]!.values.length === 1
    ? library.sets.find(({ name, query }) => query === null && name.toLowerCase() === term[0]!.values[0]!.toLowerCase())
    : undefined
})
const order = computed(() => String(route.query.order ?? (set.value ? 'hand' : 'name')))
const found = useFound(() => ({
  q: q.value,
  order: order.value,
  set: order.value === 'hand' ? set.value?.id : undefined,
}))
const { rows, total, tolerant, query, problem } = found
watch(query, (line) => (understood.value = line))
const terms = computed(() => termsOf(query.value))
const ORDERS = computed(() => [
  ...(set.value ? [['hand', `in the order of “${set.value.name}”`]] : []),
  ['name', 'by name'],
  ['family', 'by family'],
  ['changed', 'by last change'],
  ['size', 'by size'],
  ['colour', 'by colour'],
  ['use', 'by use'],
])

const chosenOrder = computed({ get: () => order.value, set: (value: string) => put({ order: value }) })

const put = (change: Record<string, string | undefined>) => router.push({ query: { ...route.query, ...change } })
const toggle = (name: string, value: string) => put({ search: toggled(query.value, name, value) || undefined })

// --- only what is in sight is drawn -------------------------------------------------------
const { tallest, strip, below, lanes, tall } = useColumns(look, room.width)
const lines = computed(() => Math.ceil((total.value ?? 0) / lanes.value))
const virtual = useVirtualizer(
  computed(() => ({
    count: lines.value,
    getScrollElement: () => list.value ?? null,
    estimateSize: () => tall.value,
    overscan: 14,
  })),
)
const items = computed(() =>
  virtual.value
    .getVirtualItems()
    .flatMap(({ index: line, start }) =>
      Array.from({ length: lanes.value }, (_, lane) => ({ index: line * lanes.value + lane, lane, start })),
    )
    .filter(({ index }) => index < (total.value ?? 0))
    .map((item) => ({ ...item, preset: rows.get(item.index) })),
)
const place = (item: { lane: number; start: number }) => ({
  transform: `translateY(${item.start}px)`,
  height: `${tall.value}px`,
  left: `${(100 * item.lane) / lanes.value}%`,
  width: `${100 / lanes.value}%`,
})
// What stood first in sight stands there still when the strips grow or another column begins.
const firstInSight = (high = tall.value, beside = lanes.value) =>
  Math.round((list.value?.scrollTop ?? 0) / high) * beside
const frame = () => new Promise((done) => requestAnimationFrame(done))
/** As soon as the list has its height: what stands further down than it reaches cannot be scrolled to. */
async function scrollTo(index: number) {
  for (
    let tries = 0;
    index && tries < 60 && (!room.width.value || (list.value?.scrollHeight ?? 0) < lines.value * tall.value);
    tries++
  )
    await frame()
  list.value?.scrollTo({ top: Math.floor(index / lanes.value) * tall.value })
}
watch([tall, lanes], async (_, [high, beside]) => {
  const first = firstInSight(high, beside)
  virtual.value.measure()
  await nextTick()
  await scrollTo(first)
})
// What comes next is asked for before it comes into sight.
watch(
  items,
  (now) => now.length && found.see(now[0]!.index - 20, Math.min(now.at(-1)!.index + 60, (total.value ?? 1) - 1)),
)

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

// --- walking and picking -------------------------------------------------------------------
const peeked = ref<number>()
const at = ref(0)
const anchor = ref(0)
const peek = computed(() => (peeked.value !== undefined ? library.byId.get(peeked.value) : undefined) ?? rows.get(0))
watch([total, q], () => {
  if (!total.value) peeked.value = undefined
})
watch(q, () => {
  peeked.value = undefined
  at.value = anchor.value = 0
})

function focus(index: number, keepAnchor = false) {
  at.value = Math.min(Math.max(index, 0), (total.value ?? 1) - 1)
  if (!keepAnchor) anchor.value = at.value
  virtual.value.scrollToIndex(Math.floor(at.value / lanes.value), { align: 'auto' })
  const preset = rows.get(at.value)
  if (preset) peeked.value = preset.id
  else {
    found.see(at.value, at.value)
    const stop = watch(
      () => rows.get(at.value),
      (came) => {
        if (came) {
          peeked.value = came.id
          stop()
        }
      },
    )
  }
  nextTick(() => list.value?.querySelector<HTMLElement>(`[data-index="${at.value}"]`)?.focus({ preventScroll: true }))
}
// From the search line down: as soon as what was asked for last is there.
let wanted = false
watch(intoList, () => {
  wanted = true
  goIn()
})
watch(
  () => rows.get(0),
  () => goIn(),
)
function goIn() {
  if (!wanted || !rows.get(0)) return
  wanted = false
  nextTick(() => focus(0))
}
async function range(to: number) {
  const [first, last] = [Math.min(anchor.value, to), Math.max(anchor.value, to)]
  await toast.attempt(async () => tray.add(await found.ids(first, last)))
}
function click(event: MouseEvent, index: number, preset: Preset) {
  if (event.shiftKey) {
    focus(index, true)
    range(index)
    return
  }
  focus(index)
  if (event.ctrlKey || event.metaKey) tray.toggle(preset.id)
}
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement
  if (
    target.closest('input, textarea, [role=dialog], [role=slider], .el-select, .el-dropdown, .el-drawer') ||
    event.altKey
  )
    return
  const page = Math.max(1, Math.floor(room.height.value / tall.value) - 1) * lanes.value
  const across: Record<string, number> = lanes.value > 1 ? { ArrowRight: 1, ArrowLeft: -1 } : {}
  const steps: Record<string, number> = {
    ArrowDown: lanes.value,
    ArrowUp: -lanes.value,
    ...across,
    PageDown: page,
    PageUp: -page,
    Home: -1e9,
    End: 1e9,
  }
  const step = steps[event.key]
  if (step !== undefined) {
    event.preventDefault()
    focus(at.value + step, event.shiftKey)
    if (event.shiftKey) range(at.value)
  }
  if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
    event.preventDefault()
    all()
  }
  if (event.key === ' ' && peek.value && !target.closest('button, a')) {
    event.preventDefault()
    tray.toggle(peek.value.id)
  }
  if (event.key === 'Enter' && peek.value && target.closest('.row, body') && !target.closest('button, a'))
    open(peek.value)
})
const all = () => toast.attempt(async () => tray.add(await found.ids()))
const open = (preset: Preset) => {
  keepPlace()
  router.push({ name: 'bench', params: { id: preset.id } })
}

// --- a search that is kept fills a set by itself -------------------------------------------
const keepSearch = () =>
  toast.attempt(async () => {
    await of(
      api.POST('/api/libraries/{library}/sets', {
        ...library.path(),
        body: { name: naming.value!.trim(), query: query.value },
      }),
    )
    toast.done(`“${naming.value!.trim()}” fills itself from this search from now on.`)
    naming.value = undefined
    await library.load()
  })

const COLUMNS: Record<string, string> = {
  size: 'Size',
  edition: 'Edition',
  family: 'Family',
  label: 'Work state',
  tags: 'Tags',
  traits: 'Traits',
  author: 'Author',
  licence: 'Licence',
  notes: 'Notes',
  changed: 'Changed',
}
const day = (text: string | null) =>
  text ? new Date(text).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }) : ''
function cell(preset: Preset, column: string): string {
  switch (column) {
    case 'size':
      return `${preset.size} px`
    case 'edition':
      return String(preset.edition)
    case 'family':
      return library.familyById.get(preset.family_id ?? 0)?.name ?? ''
    case 'label':
      return library.labelById.get(preset.label_id ?? 0)?.name ?? ''
    case 'tags':
      return preset.tag_ids.map((id) => library.tagById.get(id)?.name).join(', ')
    case 'traits':
      return preset.traits.join(', ')
    case 'changed':
      return day(preset.changed_at)
    default:
      return String(preset[column as 'author' | 'licence' | 'notes'] ?? '')
  }
}
const narrowed = computed(() => !!q.value)
</script>

<template>
  <div class="wall">
    <Facets :query="query" @toggle="toggle" />
    <section>
      <div class="bar line">
        <b v-if="problem" class="soft">No answer yet</b
        ><b v-else>{{ total ?? '…' }} {{ total === 1 ? 'brush' : 'brushes' }}</b>
        <el-select v-model="chosenOrder" size="small" class="order" aria-label="Order"
          ><el-option v-for="[value, label] in ORDERS" :key="value" :value="value!" :label="label!"
        /></el-select>
        <span class="grow" />
        <button
          v-if="session.mayEdit && library.count('changed') + library.count('draft')"
          class="plain"
          @click="resetting = true"
        >
          Take back…
        </button>
        <button class="plain" :disabled="!total" @click="all">Pick these</button>
        <span class="line" role="group" aria-label="How the Wall looks"
          ><button
            v-for="mode in ['strips', 'rows', 'table'] as const"
            :key="mode"
            class="plain mode"
            :aria-pressed="look.mode === mode"
            @click="look.mode = mode"
          >
            {{ mode }}
          </button></span
        >
        <Grounds v-model="look.ground" :grounds="['white', 'grey', 'black']" label="Ground of the strips" />
        <el-slider
          v-if="look.mode === 'strips'"
          v-model="look.height"
          :min="36"
          :max="tallest"
          :show-tooltip="false"
          aria-label="Height of the strips"
        />
        <el-popover v-if="look.mode === 'table'" trigger="click" width="160"
          ><template #reference><button class="plain">columns</button></template>
          <el-checkbox-group v-model="look.columns"
            ><el-checkbox
              v-for="(title, name) in COLUMNS"
              :key="name"
              :value="name"
              :label="title" /></el-checkbox-group
        ></el-popover>
      </div>
      <div v-if="narrowed" class="chips line">
        <button
          v-for="term in terms"
          :key="term.piece"
          class="chip"
          :aria-label="`Take “${term.piece}” out`"
          @click="put({ search: without(query, term.piece) || undefined })"
        >
          {{ term.piece }} ✕
        </button>
        <button class="plain" @click="put({ search: undefined })">show all</button
        ><button v-if="session.mayEdit && !problem && naming === undefined" class="plain" @click="naming = ''">
          keep this search
        </button>
      </div>
      <form v-if="naming !== undefined" class="line keep" @submit.prevent="keepSearch">
        <el-input
          v-model="naming"
          v-focus
          size="small"
          placeholder="Name of the set that fills itself"
          aria-label="Name of the set that fills itself"
          maxlength="100"
        /><el-button size="small" native-type="submit" :disabled="!naming.trim()">Keep</el-button
        ><button type="button" class="plain" @click="naming = undefined">no</button>
      </form>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <p v-else-if="tolerant && total" class="soft hint">Nothing is written just so. These come close:</p>
      <div v-if="look.mode === 'table'" class="head soft">
        <span class="mini">Stroke</span><span class="name">Name</span
        ><span v-for="column in look.columns" :key="column" :class="column">{{ COLUMNS[column] }}</span>
      </div>
      <div
        ref="list"
        class="list"
        :class="[look.mode, `on-${look.ground}`, { below }]"
        role="listbox"
        aria-label="Brushes"
        aria-multiselectable="true"
      >
        <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
          <div
            v-for="item in items"
            :key="item.index"
            class="row"
            :class="{ on: item.preset && item.preset.id === peek?.id, picked: item.preset && tray.has(item.preset.id) }"
            role="option"
            :aria-selected="!!item.preset && tray.has(item.preset.id)"
            :aria-setsize="total"
            :aria-posinset="item.index + 1"
            :data-index="item.index"
            :data-id="item.preset?.id"
            :tabindex="item.index === at ? 0 : -1"
            :style="place(item)"
            @click="item.preset && click($event, item.index, item.preset)"
            @dblclick="item.preset && open(item.preset)"
          >
            <template v-if="item.preset">
              <Strip
                :key="item.preset.fingerprint"
                :fingerprint="item.preset.fingerprint"
                :label="item.preset.name"
                :wide="look.mode === 'strips' ? strip : 170"
                :style="look.mode === 'strips' ? { width: `${strip}px` } : {}"
              />
              <div v-if="look.mode === 'strips'" class="words">
                <div class="line">
                  <b>{{ item.preset.name }}</b><span class="soft size">{{ item.preset.size }} px</span
                  ><span v-if="item.preset.favourite" class="heart" title="favourite">♥</span
                  ><span v-if="item.preset.locked" class="locked">locked</span>
                </div>
                <div class="tags soft">
                  <span v-if="item.preset.draft" class="changed">unsaved change</span
                  ><span v-else-if="item.preset.altered" class="changed">edition {{ item.preset.edition }}</span
                  ><TagMark
                    v-if="item.preset.label_id && library.labelById.get(item.preset.label_id)"
                    state
                    :tag="library.labelById.get(item.preset.label_id)!"
                  /><TagMark
                    v-for="id in item.preset.tag_ids"
                    :key="id"
                    :tag="library.tagById.get(id) ?? { name: '…', colour: 'slate', shape: 'square' }"
                  />
                </div>
                <div class="soft small traits">{{ item.preset.traits.join(' · ') }}</div>
              </div>
              <template v-else-if="look.mode === 'rows'"
                ><b class="name">{{ item.preset.name }}</b
                ><span class="soft">{{ item.preset.size }} px</span
                ><span v-if="item.preset.draft" class="changed">unsaved</span
                ><span class="soft grow traits">{{ item.preset.traits.join(' · ') }}</span></template
              >
              <template v-else
                ><b class="name">{{ item.preset.name }}</b
                ><span v-for="column in look.columns" :key="column" :class="column" class="soft">{{
                  cell(item.preset, column)
                }}</span
                ><span class="grow"
              /></template>
              <button
                class="pick"
                :class="{ on: tray.has(item.preset.id) }"
                :aria-pressed="tray.has(item.preset.id)"
                :aria-label="tray.has(item.preset.id) ? `Put ${item.preset.name} back` : `Pick ${item.preset.name}`"
                tabindex="-1"
                @click.stop="tray.toggle(item.preset.id)"
              >
                {{ tray.has(item.preset.id) ? '✓' : '+' }}
              </button>
            </template>
          </div>
        </div>
        <div v-if="total === 0 && narrowed" class="empty">
          <p>No brush fits all of this.</p>
          <el-button @click="put({ search: undefined })">Show all brushes</el-button>
        </div>
        <div v-else-if="total === 0" class="empty">
          <p>This library has no brushes yet. Drop a picture anywhere to make one, or a package to take one in.</p>
          <el-button type="primary" @click="router.push({ name: 'tip-maker' })">Make a brush</el-button>
        </div>
      </div>
    </section>
    <Peek v-if="peek" :key="peek.id" :preset="peek" @open="open(peek)" />
    <ResetDialog v-if="resetting" @close="resetting = false" />
  </div>
</template>

<style scoped>
.wall {
  display: grid;
  grid-template-columns: 172px minmax(0, 1fr) 300px;
  height: 100%;
}
section {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.bar {
  padding: 8px 14px;
  white-space: nowrap;
  gap: 5px;
  flex-wrap: wrap;
  row-gap: 2px;
}
.order {
  flex: none;
  width: 116px;
}
.bar .el-slider {
  width: 84px;
  flex: none;
  margin: 0 8px;
}
.mode[aria-pressed='false'] {
  color: var(--soft);
  font-weight: 500;
}
.bar .line {
  gap: 3px;
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
.keep,
.hint,
.problem {
  margin: 0;
  padding: 0 14px 6px;
}
.keep .el-input {
  width: 260px;
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
.row .strip {
  flex: none;
}
.below .row {
  flex-direction: column;
  align-items: flex-start;
  justify-content: center;
  gap: 3px;
}
.below .words {
  flex: none;
  width: calc(100% - 44px);
}
.below .pick {
  position: absolute;
  right: 10px;
  bottom: 14px;
}
.rows .strip {
  width: 170px;
  flex: none;
}
.table .strip,
.mini {
  width: 120px;
  flex: none;
}
.words {
  flex: 1;
  min-width: 0;
}
.words b {
  font-size: 14px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  max-height: 18px;
  overflow: hidden;
}
.size {
  white-space: nowrap;
  flex: none;
}
.traits {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.heart {
  color: var(--madder);
}
.locked {
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  padding: 0 5px;
  font-size: 11px;
  font-weight: 700;
}
.head {
  display: flex;
  gap: 14px;
  padding: 0 14px 3px;
  font-size: 11.5px;
}
.table span:not(.strip):not(.grow),
.table .name,
.head span {
  flex: 0 0 76px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.table .name,
.head .name,
.rows .name {
  flex: 0 0 150px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.table .traits,
.table .tags,
.table .notes,
.head .traits,
.head .tags,
.head .notes {
  flex: 1 1 110px;
  display: block;
}
.head .mini {
  flex: none;
}
.pick {
  flex: none;
  width: 26px;
  height: 26px;
  border-radius: 7px;
  border: 1px solid var(--line-strong);
  background: var(--card);
  color: var(--soft);
  font: inherit;
  font-weight: 700;
  cursor: pointer;
}
.rows .pick,
.table .pick {
  height: 22px;
}
.pick.on {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}
</style>
