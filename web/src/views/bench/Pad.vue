<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api, of } from '../../api/client'
import { offline } from '../../api/connection'
import type { paths } from '../../api/schema'
import Grounds from '../../parts/Grounds.vue'
import AsMark from './AsMark.vue'
import Gauges from './Gauges.vue'
import KeepStroke from './KeepStroke.vue'
import { lacking, poseOf, sampleOf, UPRIGHT, type Sample } from './pen'
import { onPad } from './onPad'
import { usePadPicture, type Ground, type Stroke, type Wanted } from './usePadPicture'
import OwnWord from '../../parts/OwnWord.vue'

/**
 * Where the artist paints by hand: a thin guide follows at once, the computed strokes take its place when the
 * pen lifts, and are painted anew while a setting moves.
 */
type StandIns = paths['/api/sample-strokes']['get']['responses']['200']['content']['application/json']['stand_ins']
const pad = onPad()
const { document, trying } = pad
const holder = ref<HTMLElement>()
const guide = ref<HTMLCanvasElement>()
const room = useElementSize(holder)
const size = ref<[number, number]>([280, 240])
/** A brush that only moves paint leaves a blank page blank. */
const movesOnly = () => document.value!.method === 'smear' && document.value!.paint.own_paint === 0
const ground = ref<Ground>(movesOnly() ? 'painted' : 'white')
const DEVICE = 'device'
const MOST = 400
const standIn = ref(DEVICE)
const standIns = ref<StandIns>([])
const strokes = shallowRef<Stroke[]>([])
const pose = ref(UPRIGHT)
const warnings = ref<string[]>([])
let drawing: Sample[] = []
let pen: number | undefined

onMounted(() => pad.toast.attempt(async () => (standIns.value = (await of(api.GET('/api/sample-strokes'))).stand_ins)))

// --- the pad fills its place until something lies on it; then it is shown smaller where it has to be
watch([room.width, room.height], ([width, height]) => {
  if (width && !strokes.value.length && pen === undefined)
    size.value = [Math.floor(width), Math.floor(height)].map((side) => Math.min(1600, Math.max(120, side))) as [
      number,
      number,
    ]
})
const shrunk = computed(() =>
  room.width.value ? Math.min(1, room.width.value / size.value[0], room.height.value / size.value[1]) : 1,
)

// --- painting ------------------------------------------------------------------------------------
const wanted = computed<Wanted | undefined>(() =>
  strokes.value.length
    ? { document: document.value!, size: size.value, ground: ground.value, strokes: strokes.value }
    : undefined,
)
const { picture, behind, painted } = usePadPicture(wanted, () => {
  if (pen === undefined) drawGuides()
})

const how = () => ({
  colour: trying.value.colour,
  adjustments: trying.value.adjustments,
  ...(standIn.value !== DEVICE ? { stand_in: standIn.value } : {}),
})
function lay(stroke: Stroke) {
  if (strokes.value.length >= MOST)
    return pad.toast.problem(new Error(`The pad holds ${MOST} strokes. Clear it and go on.`), true)
  strokes.value = [...strokes.value, stroke]
}

// --- the hand ------------------------------------------------------------------------------------
const sample = (event: PointerEvent) => sampleOf(event, guide.value!, shrunk.value)
function down(event: PointerEvent) {
  if (event.button !== 0 || pen !== undefined) return
  pen = event.pointerId
  guide.value!.setPointerCapture(pen)
  drawing = [sample(event)]
  feel(event)
}
function move(event: PointerEvent) {
  feel(event)
  if (event.pointerId !== pen) return
  const more = event.getCoalescedEvents?.().map(sample) ?? []
  drawing.push(...(more.length ? more : [sample(event)]))
  drawGuides()
}
function up(event: PointerEvent) {
  if (event.pointerId !== pen) return
  pen = undefined
  warnings.value = lacking(drawing, event.pointerType)
  const began = drawing[0]!.t
  lay({ samples: drawing.map((one) => ({ ...one, t: one.t - began })), ...how() })
  drawing = []
}
/** What the pen really sends, as it sends it. */
const feel = (event: PointerEvent) =>
  (pose.value = poseOf(event, pen === undefined ? [] : drawing.slice(-2), pose.value))

/** Guides for what is drawn and not painted yet. */
function drawGuides() {
  const canvas = guide.value?.getContext('2d')
  if (!canvas) return
  canvas.clearRect(0, 0, ...size.value)
  canvas.strokeStyle = ground.value === 'black' ? '#9fdcd6' : '#0f6b6b'
  canvas.lineWidth = 1.2
  const open = [...strokes.value.slice(picture.value?.count ?? 0).map(({ samples }) => samples ?? []), drawing]
  for (const samples of open) {
    canvas.beginPath()
    for (const one of samples) canvas.lineTo(Number(one.x), Number(one.y))
    canvas.stroke()
  }
}

const undo = () => (strokes.value = strokes.value.slice(0, -1))
function clear() {
  strokes.value = []
  warnings.value = []
}
const last = computed(() => strokes.value.at(-1))
</script>

<template>
  <section class="pad" aria-label="Pad" data-part="pad">
    <div class="line head">
      <h2><OwnWord word="pad">Pad</OwnWord></h2>
      <Grounds v-model="ground" :grounds="['white', 'grey', 'black', 'painted']" label="Ground of the pad" />
      <span class="grow" />
      <button class="plain" :disabled="!strokes.length" @click="undo">Undo stroke</button>
      <button class="plain" :disabled="!strokes.length" @click="clear">Clear</button>
    </div>
    <div ref="holder" class="holder">
      <div
        class="paper"
        :class="ground === 'painted' ? 'white' : ground"
        :style="{
          width: `${size[0]}px`,
          height: `${size[1]}px`,
          transform: shrunk < 1 ? `scale(${shrunk})` : undefined,
        }"
      >
        <img
          v-if="picture"
          :src="picture.url"
          alt="What was painted on the pad"
          draggable="false"
          data-test="painted"
          :data-took="picture.took"
          :data-strokes="picture.count"
          :data-behind="behind"
        />
        <span v-else-if="!strokes.length" class="hint">Paint here with pen, mouse or finger.</span>
        <canvas
          ref="guide"
          tabindex="0"
          :width="size[0]"
          :height="size[1]"
          aria-label="Pad to paint on"
          @pointerdown="down"
          @pointermove="move"
          @pointerup="up"
          @pointercancel="up"
        />
      </div>
    </div>
    <div class="line tools">
      <button class="plain" @click="lay({ sample: trying.sample, ...how() })">Paint the sample stroke</button
      ><span class="grow" /><KeepStroke :stroke="last" :size="size" /><AsMark :wanted="wanted" :painted="painted" />
    </div>
    <Gauges :pose="pose" />
    <div class="warnings small" role="status">
      <p v-if="movesOnly() && ground !== 'painted'">It only moves paint: try it on the painted ground.</p>
      <p v-for="one in warnings" :key="one">{{ one }}</p>
      <p v-if="offline && behind" class="soft">The last strokes wait for the connection.</p>
    </div>
    <label class="line soft small"
      >Paint as
      <el-select
        v-model="standIn"
        aria-label="Simulated pen"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
      >
        <el-option :value="DEVICE" label="My device" />
        <el-option v-for="one in standIns" :key="one.name" :value="one.name" :label="one.title" />
      </el-select>
    </label>
  </section>
</template>

<style scoped>
.pad {
  display: flex;
  flex-direction: column;
  gap: 4px;
  overflow: hidden;
}
.head h2 {
  font-size: 13px;
  white-space: nowrap;
}
.grey {
  background: #808080;
}
.black {
  background: #000;
}
.white {
  background: #fff;
}
.holder {
  flex: 1;
  min-height: 120px;
  overflow: hidden;
}
.paper {
  position: relative;
  transform-origin: 0 0;
  border-radius: 7px;
  overflow: hidden;
  box-shadow: inset 0 0 0 1px var(--line-strong);
}
.paper > * {
  position: absolute;
  inset: 0;
  display: block;
}
.hint {
  display: grid !important;
  place-items: center;
  text-align: center;
  padding: 0 20px;
  color: #65625b;
  pointer-events: none;
}
.grey .hint,
.black .hint {
  color: #f1f1f1;
}
canvas {
  touch-action: none;
  cursor: crosshair;
}
/* As tall whatever it says, so that the pad keeps its place. */
.warnings {
  height: 32px;
  overflow: hidden;
  line-height: 16px;
}
.warnings p {
  margin: 0;
  color: var(--ochre);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.warnings p::before {
  content: '◗ ';
}
.tools {
  min-height: 24px;
  flex-wrap: wrap;
  row-gap: 0;
}
.tools > :deep(.plain) {
  white-space: nowrap;
}
.inline-select {
  flex: 1;
}
</style>
