<script setup lang="ts">
import { computed, ref } from 'vue'
import { onTipWork, type Area } from './useTipWork'

/** How marks are chosen from the page: those that were found, by loop, by frame, by a grid; joined and taken apart. */
type Found = { parts: number[]; box: number[]; area: Area; frame: number }
const props = defineProps<{ marks: Found[] }>()
const way = defineModel<'marks' | 'loop' | 'frame' | 'cut'>('way', { required: true })
const only = defineModel<boolean>('only', { required: true })
const work = onTipWork()
const { state, set, page, frames, making } = work
const rows = ref(2)
const columns = ref(3)
const near = computed(() => state.value!.find!.near!)
const most = computed(() => making.value?.near.most ?? 0.1)
const chosen = computed(() => props.marks.filter(({ frame }) => frame >= 0))
const severed = computed(() => chosen.value.filter(({ parts }) => parts.length > 1))

/** Marks are joined or taken apart for good, however near one asks for; what was chosen goes with them. */
function regroup(kind: 'joined' | 'apart', some: Found[], groups: number[][]) {
  const find = state.value!.find!
  const parts = some.flatMap((one) => one.parts)
  const others = (find.joined ?? []).filter(
    (one) => one.page !== page.value || !one.parts.some((id) => parts.includes(id)),
  )
  const joined = kind === 'joined' ? [...others, { page: page.value, parts }] : others
  const apart = kind === 'apart' ? [...(find.apart ?? []), { page: page.value, parts }] : find.apart
  const gone = new Set(some.map(({ frame }) => frame))
  const rest = frames.value.filter((_, index) => !gone.has(index))
  const fresh = groups.map((ids) => ({ page: page.value, area: { marks: ids, box: bounds(some) } }))
  work.change({ find: { ...find, joined, apart }, frames: kind === 'joined' ? [...rest, ...fresh] : rest })
}
function bounds(some: Found[]): Area['box'] {
  const left = Math.min(...some.map(({ box }) => box[0]!))
  const top = Math.min(...some.map(({ box }) => box[1]!))
  const right = Math.max(...some.map(({ box }) => box[0]! + box[2]!))
  const bottom = Math.max(...some.map(({ box }) => box[1]! + box[3]!))
  return [left, top, right - left, bottom - top].map((one) => Math.round(one * 1e5) / 1e5)
}
const join = () =>
  regroup('joined', chosen.value, [chosen.value.flatMap(({ parts }) => parts).sort((one, other) => one - other)])
const takeApart = () => regroup('apart', severed.value, [])
const all = () => work.add(props.marks.map(({ area }) => area))
const meet = ([left, top, width, height]: number[], [x, y, wide, tall]: number[]) =>
  left! < x! + wide! && x! < left! + width! && top! < y! + tall! && y! < top! + height!
function grid() {
  const cells = Array.from({ length: rows.value * columns.value }, (_, index): Area => {
    const [row, column] = [Math.floor(index / columns.value), index % columns.value]
    return { box: [column / columns.value, row / rows.value, 1 / columns.value, 1 / rows.value] }
  })
  // A cell that no drawing reaches into has nothing to paint with.
  const full = cells.filter(({ box }) => !props.marks.length || props.marks.some((mark) => meet(mark.box, box!)))
  work.setFrames([
    ...frames.value.filter((frame) => frame.page !== page.value),
    ...full.map((area) => ({ page: page.value, area })),
  ])
}
const hints = {
  marks: 'Click the drawings to use.',
  loop: 'Draw a loose loop around it.',
  frame: 'Drag a frame around it.',
  cut: 'Draw a line across a mark.',
}
</script>

<template>
  <div class="line tools">
    <div class="options" role="group" aria-label="Selection method">
      <button v-if="marks.length" type="button" :aria-pressed="way === 'marks'" @click="way = 'marks'">
        Marks found ({{ marks.length }})
      </button>
      <button type="button" :aria-pressed="way === 'loop'" @click="way = 'loop'">Loop</button>
      <button type="button" :aria-pressed="way === 'frame'" @click="way = 'frame'">Frame</button>
      <el-popover trigger="click" width="220">
        <template #reference><button type="button">Grid</button></template>
        <form class="line" @submit.prevent="grid">
          <input v-model.number="rows" type="number" min="1" max="16" aria-label="Rows of the grid" /> ×
          <input v-model.number="columns" type="number" min="1" max="16" aria-label="Columns of the grid" />
          <el-button size="small" native-type="submit">Cut</el-button>
        </form>
      </el-popover>
    </div>
    <el-checkbox v-if="way === 'loop'" v-model="only" size="small">Exclude overlapping marks</el-checkbox>
    <span v-else-if="marks.length > 1" class="line small near"
      >Join nearby<el-slider
        aria-label="Joining distance"
        size="small"
        :min="0"
        :max="most"
        :step="0.001"
        :show-tooltip="false"
        :model-value="near"
        @input="set('find', { near: $event as number }, 'near')"
    /></span>
    <span v-if="way !== 'marks'" class="soft small">{{ hints[way] }}</span>
    <template v-else>
      <button v-if="marks.length > 1 && chosen.length < marks.length" class="plain" @click="all">Select all</button>
      <button v-if="chosen.length > 1" class="plain" @click="join">Join</button>
      <button v-if="severed.length" class="plain" @click="takeApart">Split</button>
      <button v-if="chosen.length === 1" class="plain" @click="way = 'cut'">Cut…</button>
      <button v-if="frames.length" class="plain" @click="work.setFrames([])">None</button>
    </template>
  </div>
</template>

<style scoped>
.tools {
  flex-wrap: wrap;
  gap: 4px 10px;
  padding: 6px 12px;
  min-height: 40px;
}
input[type='number'] {
  width: 52px;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line-strong);
  border-radius: 5px;
  padding: 2px 5px;
}
.near input {
  width: 90px;
  accent-color: var(--accent);
}
</style>
