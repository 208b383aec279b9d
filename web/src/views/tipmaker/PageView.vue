<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import PageTools from './PageTools.vue'
import { onTipWork, type Area } from './useTipWork'
import { useZoom } from './useZoom'

/** The page, large: the drawings found on it to be clicked, or an area drawn by hand. */
const work = onTipWork()
const { sheet, frames, page, at } = work
const way = ref<'marks' | 'loop' | 'frame' | 'cut'>('marks')
const only = ref(true)
const holder = ref<HTMLElement>()
const paper = ref<HTMLElement>()
const room = useElementSize(holder)
const { factor, scale, place, fit, full, zoom, move } = useZoom(room, () => sheet.value)
const src = computed(() => `/api/works/${work.work.value!.id}/pages/${sheet.value!.id}.png`)

const marks = computed(() =>
  sheet.value!.marks.map((mark) => {
    const area: Area = { marks: mark.parts, box: mark.box }
    return { ...mark, area, frame: work.indexOf(area) }
  }),
)
/** What was drawn by hand on this page, and halves of marks. */
const drawn = computed(() =>
  frames.value
    .map((frame, index) => ({ ...frame.area, index, page: frame.page }))
    .filter((area) => area.page === page.value && (!area.marks || area.cuts?.length) && (area.box ?? area.loop)),
)

// --- the hand: shares of the page --------------------------------------------------------------
type Point = [number, number]
const path = ref<Point[]>([])
let pen: number | undefined
let panned = 0
function point(event: PointerEvent): Point {
  const box = paper.value!.getBoundingClientRect()
  const share = (value: number) => Math.min(1, Math.max(0, value))
  return [share((event.clientX - box.left) / box.width), share((event.clientY - box.top) / box.height)]
}
function down(event: PointerEvent) {
  if (event.button > 1) return
  pen = event.pointerId
  panned = 0
  holder.value!.setPointerCapture(pen)
  path.value = way.value === 'marks' || event.button === 1 ? [] : [point(event)]
}
function drag(event: PointerEvent) {
  if (event.pointerId !== pen) return
  if (path.value.length) return void path.value.push(point(event))
  panned += Math.abs(event.movementX) + Math.abs(event.movementY)
  if (factor.value > 1) move(event.movementX, event.movementY)
}
function up(event: PointerEvent) {
  if (event.pointerId !== pen) return
  pen = undefined
  const points = path.value
  path.value = []
  if (points.length) return finish(points)
  if (panned < 4) press(point(event))
}

// --- the keys: a point that arrows move and Enter sets --------------------------------------------
const STEP = 0.01
const WAYS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
const NAMES = { marks: 'The page', loop: 'A loop', frame: 'A frame', cut: 'A cut' }
const cross = ref<Point>()
const set = ref<Point[]>([])
const HOW = 'arrows move the point, Shift for small steps; Enter sets it, twice ends a loop'
const called = computed(() =>
  way.value === 'marks' ? NAMES.marks : `${NAMES[way.value]}: ${HOW}. ${set.value.length} set`,
)
watch(way, () => ((cross.value = undefined), (set.value = [])))
function key(event: KeyboardEvent) {
  if (event.target !== holder.value || way.value === 'marks') return
  const step = WAYS[event.key]
  if (step) {
    const by = event.shiftKey ? STEP / 10 : STEP
    const [x, y] = cross.value ?? [0.5, 0.5]
    cross.value = [Math.min(1, Math.max(0, x + step[0] * by)), Math.min(1, Math.max(0, y + step[1] * by))]
  } else if (event.key === 'Enter') put(cross.value ?? [0.5, 0.5])
  else if (event.key === 'Escape' && set.value.length) set.value = []
  else return
  event.preventDefault()
}
function put(here: Point) {
  cross.value = here
  const last = set.value.at(-1)
  const same = last && last[0] === here[0] && last[1] === here[1]
  if (!same) set.value = [...set.value, here]
  const done = way.value === 'loop' ? same && set.value.length > 2 : set.value.length === 2
  if (!done) return
  const points = set.value
  set.value = []
  finish(points)
}
const shown = computed(() => (path.value.length ? path.value : cross.value ? [...set.value, cross.value] : []))
const box = (points: Point[]): [number, number, number, number] => {
  const [x, y] = [0, 1].map((axis) => points.map((one) => one[axis]!))
  const [left, top] = [Math.min(...x!), Math.min(...y!)]
  return [left, top, Math.max(...x!) - left, Math.max(...y!) - top]
}
function finish(points: Point[]) {
  const [, , width, height] = box(points)
  if (way.value === 'cut') return cut(points[0]!, points.at(-1)!)
  if (width < 0.005 || height < 0.005) return
  if (way.value === 'frame') return work.add([{ box: box([points[0]!, points.at(-1)!]) }])
  // So many points draw it as well as all.
  const every = Math.ceil(points.length / 300)
  work.add([{ loop: points.filter((_, index) => index % every === 0), only: only.value }])
}
const holds = ([left, top, width, height]: number[], [x, y]: Point, rim = 0) =>
  x > left! - rim && x < left! + width! + rim && y > top! - rim && y < top! + height! + rim
/** The smallest mark under the cursor is meant. */
function press(at: Point) {
  const rim = 6 / (sheet.value!.width * scale.value)
  const under = marks.value.filter((mark) => holds(mark.box, at, rim))
  const size = (mark: { box: number[] }) => mark.box[2]! * mark.box[3]!
  const smallest = under.sort((one, other) => size(one) - size(other))[0]
  if (smallest) work.toggle(smallest.area)
}
function cut(from: Point, to: Point) {
  if (Math.hypot(to[0] - from[0], to[1] - from[1]) < 0.01) return
  const middle: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]
  const hit = marks.value.find((mark) => holds(mark.box, middle))
  if (!hit) return
  const rest = frames.value.filter((_, index) => index !== hit.frame)
  const halves = [1, -1].map((side) => ({ page: page.value, area: { ...hit.area, cuts: [[...from, ...to, side]] } }))
  work.setFrames([...rest, ...halves])
  way.value = 'marks'
}
function wheel(event: WheelEvent) {
  const frame = holder.value!.getBoundingClientRect()
  const [x, y] = [event.clientX - frame.left - frame.width / 2, event.clientY - frame.top - frame.height / 2]
  zoom(event.deltaY < 0 ? 1.25 : 0.8, x, y)
}
const outline = (points: number[][]) => points.map(([x, y]) => `${x! * 1000},${y! * 1000}`).join(' ')
const corners = ([x, y, width, height]: number[]) => ({
  x: x! * 1000,
  y: y! * 1000,
  width: width! * 1000,
  height: height! * 1000,
})
</script>

<template>
  <section class="view" aria-label="The page">
    <PageTools v-model:way="way" v-model:only="only" :marks="marks" />
    <div
      ref="holder"
      class="holder"
      :class="way"
      data-part="page"
      :tabindex="way === 'marks' ? undefined : 0"
      role="group"
      :aria-label="called"
      @keydown="key"
      @pointerdown="down"
      @pointermove="drag"
      @pointerup="up"
      @pointercancel="up"
      @wheel.prevent="wheel"
    >
      <div ref="paper" class="paper" :style="place">
        <img :src="src" :alt="`The page ${sheet!.name}`" draggable="false" />
        <svg viewBox="0 0 1000 1000" preserveAspectRatio="none" aria-hidden="true">
          <rect
            v-for="mark in marks"
            :key="mark.parts.join()"
            v-bind="corners(mark.box)"
            class="found"
            :class="{ on: mark.frame >= 0, at: mark.frame >= 0 && mark.frame === at }"
          />
          <template v-for="one in drawn" :key="one.index">
            <polygon v-if="one.loop" :points="outline(one.loop)" class="found on" />
            <rect v-else v-bind="corners(one.box!)" class="found on" />
            <line
              v-for="[x1, y1, x2, y2] in one.cuts"
              :key="`${x1} ${y1}`"
              :x1="x1! * 1000"
              :y1="y1! * 1000"
              :x2="x2! * 1000"
              :y2="y2! * 1000"
              class="cutting"
            />
          </template>
          <polyline v-if="way !== 'frame' && shown.length > 1" :points="outline(shown)" class="hand" />
          <rect
            v-if="way === 'frame' && shown.length > 1"
            v-bind="corners(box([shown[0]!, shown.at(-1)!]))"
            class="hand"
          />
          <template v-if="cross">
            <line
              :x1="cross[0] * 1000 - 12"
              :x2="cross[0] * 1000 + 12"
              :y1="cross[1] * 1000"
              :y2="cross[1] * 1000"
              class="cutting"
            />
            <line
              :x1="cross[0] * 1000"
              :x2="cross[0] * 1000"
              :y1="cross[1] * 1000 - 12"
              :y2="cross[1] * 1000 + 12"
              class="cutting"
            />
          </template>
        </svg>
        <button
          v-for="(mark, index) in marks"
          :key="mark.parts.join()"
          type="button"
          class="number"
          :class="{ on: mark.frame >= 0 }"
          :aria-pressed="mark.frame >= 0"
          :aria-label="`Mark ${index + 1} on the page`"
          :style="{ left: `${mark.box[0]! * 100}%`, top: `${mark.box[1]! * 100}%` }"
          @pointerdown.stop
          @click="work.toggle(mark.area)"
        >
          {{ index + 1 }}
        </button>
      </div>
    </div>
    <div class="line zoom small">
      <button class="plain" @click="fit">Fit</button><button class="plain" @click="full">100 %</button>
      <button class="plain" aria-label="Smaller" @click="zoom(0.8)">−</button
      ><button class="plain" aria-label="Larger" @click="zoom(1.25)">+</button>
      <span class="soft">{{ Math.round(scale * 100) }} %</span>
    </div>
  </section>
</template>

<style scoped>
.view {
  position: relative;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
}
.holder {
  position: relative;
  overflow: hidden;
  touch-action: none;
  background: color-mix(in srgb, var(--paper) 70%, var(--card));
}
.holder.loop,
.holder.frame,
.holder.cut {
  cursor: crosshair;
}
.paper {
  position: absolute;
  background: #fff;
  box-shadow: 0 0 0 1px var(--line);
}
.paper img,
.paper svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.found {
  fill: transparent;
  stroke: #6d6a62;
  stroke-width: 1;
  stroke-dasharray: 4 3;
  vector-effect: non-scaling-stroke;
}
.found.on {
  fill: rgb(15 107 107 / 12%);
  stroke: #0f6b6b;
  stroke-width: 1.6;
  stroke-dasharray: none;
}
.found.at {
  stroke-width: 3;
}
.hand,
.cutting {
  fill: rgb(15 107 107 / 8%);
  stroke: #0f6b6b;
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
.number {
  position: absolute;
  transform: translate(-50%, -50%);
  min-width: 19px;
  height: 19px;
  padding: 0 4px;
  font: inherit;
  font-size: 11px;
  font-weight: 700;
  line-height: 1;
  color: #0f6b6b;
  background: #fff;
  border: 1px solid #0f6b6b;
  border-radius: 10px;
  cursor: pointer;
}
.number.on {
  color: #fff;
  background: #0f6b6b;
}
.zoom {
  position: absolute;
  right: 10px;
  bottom: 8px;
  padding: 3px 10px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 7px;
}
</style>
