<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { paths } from '../../api/schema'
import Grounds from '../../parts/Grounds.vue'
import { onBench } from './useBench'

/** Where the artist paints by hand: a thin guide follows at once, the computed stroke takes its place when the pen lifts. */
type Sample = { x: number; y: number; pressure: number; tiltX: number; tiltY: number; t: number }
type StandIns = paths['/api/trial-strokes']['get']['responses']['200']['content']['application/json']['stand_ins']

const bench = onBench()
const { document, trying } = bench
const holder = ref<HTMLElement>()
const guide = ref<HTMLCanvasElement>()
const room = useElementSize(holder)
const size = ref<[number, number]>([280, 240])
const ground = ref<'white' | 'grey' | 'black' | 'painted'>('white')
const DEVICE = 'device'
const standIn = ref(DEVICE)
const standIns = ref<StandIns>([])
// What lies on the pad after each stroke, as the server painted it; the last one is shown.
const layers = ref<{ png: Blob; url: string; stroke: Sample[] }[]>([])
const top = computed(() => layers.value.at(-1))
const pose = ref({ pressure: 0, tilt: 0, azimuth: 0, direction: 0, kind: '' })
const warnings = ref<string[]>([])
const painting = ref(0)
const took = ref(0)
let stroke: Sample[] = []
let pen: number | undefined

onMounted(() => bench.toast.attempt(async () => (standIns.value = (await of(api.GET('/api/trial-strokes'))).stand_ins)))
// The pad fills its place until something lies on it.
watch([room.width, room.height], ([width, height]) => { if (width && !layers.value.length) size.value = [Math.min(1600, Math.floor(width)), Math.min(1600, Math.max(120, Math.floor(height)))] })

const point = (event: PointerEvent): Sample => {
  const box = guide.value!.getBoundingClientRect()
  return { x: event.clientX - box.left, y: event.clientY - box.top, pressure: event.pressure, tiltX: event.tiltX, tiltY: event.tiltY, t: event.timeStamp }
}

function down(event: PointerEvent) {
  if (event.button !== 0 || pen !== undefined) return
  pen = event.pointerId
  guide.value!.setPointerCapture(pen)
  stroke = [point(event)]
  feel(event)
}
function move(event: PointerEvent) {
  feel(event)
  if (event.pointerId !== pen) return
  const samples = event.getCoalescedEvents?.().map(point) ?? []
  stroke.push(...(samples.length ? samples : [point(event)]))
  draw()
}
function up(event: PointerEvent) {
  if (event.pointerId !== pen) return
  pen = undefined
  warn(event.pointerType)
  const began = stroke[0]!.t
  paint({ samples: stroke.map((one) => ({ ...one, t: one.t - began })) }, stroke)
}

/** What the pen really sends, as it sends it. */
function feel(event: PointerEvent) {
  const before = stroke.at(-2)
  const now = stroke.at(-1)
  const altitude = event.altitudeAngle ?? Math.PI / 2
  pose.value = {
    pressure: event.pressure, kind: event.pointerType, tilt: 90 - (altitude * 180) / Math.PI, azimuth: ((event.azimuthAngle ?? 0) * 180) / Math.PI,
    direction: before && now && pen !== undefined ? (Math.atan2(before.y - now.y, now.x - before.x) * 180) / Math.PI : pose.value.direction,
  }
}

function warn(kind: string) {
  if (stroke.length < 4) return
  const name = kind === 'pen' ? 'This pen' : kind === 'touch' ? 'A finger' : 'A mouse'
  const even = Math.max(...stroke.map(({ pressure }) => pressure)) - Math.min(...stroke.slice(0, -1).map(({ pressure }) => pressure)) < 0.005
  const upright = stroke.every(({ tiltX, tiltY }) => !tiltX && !tiltY)
  warnings.value = [even ? `${name} sends no pressure: the brush sees the same press all along.` : '', upright ? `${name} sends no tilt.` : ''].filter(Boolean)
}

function draw() {
  const canvas = guide.value!.getContext('2d')!
  canvas.clearRect(0, 0, ...size.value)
  canvas.strokeStyle = ground.value === 'black' ? '#9fdcd6' : '#0f6b6b'
  canvas.lineWidth = 1.2
  canvas.beginPath()
  for (const { x, y } of stroke) canvas.lineTo(x, y)
  canvas.stroke()
}

const base64 = (blob: Blob) => new Promise<string>((resolve) => {
  const reader = new FileReader()
  reader.onload = () => resolve(String(reader.result).split(',')[1]!)
  reader.readAsDataURL(blob)
})

let queue: Promise<unknown> = Promise.resolve()
/** Strokes are painted one after the other, each on what the one before left. */
function paint(along: { samples: Sample[] } | { trial: string }, raw: Sample[]) {
  queue = queue.then(() => bench.toast.attempt(async () => {
    painting.value++
    const began = performance.now()
    try {
      const png = (await of(api.POST('/api/libraries/{library}/stroke', {
        ...bench.library.path(), parseAs: 'blob',
        body: {
          document: document.value!, ...along, width: size.value[0], height: size.value[1], colour: trying.value.colour, hand: trying.value.hand, ground: ground.value,
          ...(top.value ? { under: await base64(top.value.png) } : {}), ...(standIn.value !== DEVICE ? { stand_in: standIn.value } : {}),
        },
      }))) as unknown as Blob
      layers.value = [...layers.value, { png, url: URL.createObjectURL(png), stroke: raw }]
      took.value = Math.round(performance.now() - began)
    } finally {
      painting.value--
      await nextTick()
      if (!painting.value && pen === undefined) guide.value?.getContext('2d')?.clearRect(0, 0, ...size.value)
    }
  }))
}

function undo() {
  const last = layers.value.at(-1)
  if (last) URL.revokeObjectURL(last.url)
  layers.value = layers.value.slice(0, -1)
}
function clear() {
  layers.value.forEach(({ url }) => URL.revokeObjectURL(url))
  layers.value = []
  warnings.value = []
}
watch(ground, clear)

const naming = ref<string>()
const keepable = computed(() => (top.value?.stroke.length ?? 0) > 1)
async function keep() {
  const began = top.value!.stroke[0]!.t
  const done = await bench.toast.attempt(async () => {
    const made = await of(api.POST('/api/trial-strokes', { body: { name: naming.value!, width: size.value[0], height: size.value[1], samples: top.value!.stroke.map((one) => ({ ...one, t: one.t - began })), ...(standIn.value !== DEVICE ? { stand_in: standIn.value } : {}) } }))
    bench.trialsChanged.value++
    trying.value.trial = made.name
    bench.toast.done(`“${made.title}” is kept among your trial strokes, and shown above.`)
  })
  if (done) naming.value = undefined
}
const degrees = (value: number) => `${Math.round(value)}°`
</script>

<template>
  <section class="pad" aria-label="Trial pad">
    <div class="line head">
      <h2>Trial pad</h2>
      <Grounds v-model="ground" :grounds="['white', 'grey', 'black', 'painted']" label="Ground of the pad" />
      <span class="grow" />
      <button class="plain" :disabled="!layers.length" @click="undo">undo</button>
      <button class="plain" :disabled="!layers.length" @click="clear">clear</button>
    </div>
    <div ref="holder" class="holder">
      <div class="paper" :class="ground === 'painted' ? 'white' : ground" :style="{ width: `${size[0]}px`, height: `${size[1]}px` }">
        <img v-if="top" :src="top.url" alt="What was painted on the pad" draggable="false" data-test="painted" :data-took="took" :data-strokes="layers.length" />
        <span v-else class="soft hint">Paint here with a pen, a mouse or a finger.</span>
        <canvas ref="guide" :width="size[0]" :height="size[1]" aria-label="Pad to paint on" @pointerdown="down" @pointermove="move" @pointerup="up" @pointercancel="up" />
      </div>
    </div>
    <div class="line"><button class="plain" @click="paint({ trial: trying.trial }, [])">paint the trial stroke</button><span class="grow" />
      <button v-if="naming === undefined" class="plain" :disabled="!keepable" @click="naming = ''">keep as trial stroke</button></div>
    <form v-if="naming !== undefined" class="line" @submit.prevent="keep"><el-input v-model="naming" size="small" placeholder="Name of the trial stroke" aria-label="Name of the trial stroke" maxlength="40" autofocus /><el-button size="small" native-type="submit" :disabled="!naming.trim()">Keep</el-button><button type="button" class="plain" @click="naming = undefined">no</button></form>
    <div class="gauges">
      <span class="soft">Pressure</span><i class="bar"><b :style="{ width: `${pose.pressure * 100}%` }" /></i><span data-test="pressure">{{ Math.round(pose.pressure * 100) }} %</span>
      <span class="soft">Tilt</span><i class="bar"><b :style="{ width: `${(pose.tilt / 90) * 100}%` }" /></i><span data-test="tilt">{{ degrees(pose.tilt) }}</span>
      <svg class="pose" viewBox="-24 -24 48 48" role="img" :aria-label="`The pen leans ${degrees(pose.tilt)}; the line runs ${degrees(pose.direction)}`">
        <circle r="22" /><line class="way" x1="0" y1="0" :x2="Math.cos((pose.direction * Math.PI) / 180) * 20" :y2="-Math.sin((pose.direction * Math.PI) / 180) * 20" />
        <line class="pen" x1="0" y1="0" :x2="(Math.cos((pose.azimuth * Math.PI) / 180) * 22 * pose.tilt) / 90" :y2="(Math.sin((pose.azimuth * Math.PI) / 180) * 22 * pose.tilt) / 90" /><circle class="nib" r="2.5" />
      </svg>
    </div>
    <p v-for="one in warnings" :key="one" class="small warning" role="status">{{ one }}</p>
    <label class="line soft small">paint as
      <el-select v-model="standIn" size="small" aria-label="Stand-in for a tablet"><el-option :value="DEVICE" label="what the device sends" /><el-option v-for="one in standIns" :key="one.name" :value="one.name" :label="one.title" /></el-select>
    </label>
  </section>
</template>

<style scoped>
.pad { display: flex; flex-direction: column; gap: 5px; }
.head h2 { font-size: 13px; }
.grey { background: #808080; }
.black { background: #000; } .white { background: #fff; }
.holder { flex: 1; min-height: 130px; overflow: auto; }
.paper { position: relative; border-radius: 7px; overflow: hidden; box-shadow: inset 0 0 0 1px var(--line-strong); }
.paper > * { position: absolute; inset: 0; display: block; }
.hint { display: grid !important; place-items: center; color: #65625b; pointer-events: none; }
.grey .hint, .black .hint { color: #f1f1f1; }
canvas { touch-action: none; cursor: crosshair; }
.gauges { display: grid; grid-template-columns: 58px 1fr 40px 44px; gap: 3px 8px; align-items: center; }
.pose { grid-column: 4; grid-row: 1 / 3; width: 44px; height: 44px; }
.pose circle { fill: var(--card); stroke: var(--line-strong); } .pose .nib { fill: var(--ink); stroke: none; }
.pose line { stroke: var(--ink); stroke-width: 3; stroke-linecap: round; } .pose .way { stroke: var(--accent); stroke-width: 1.5; stroke-dasharray: 3 3; }
.bar { height: 5px; border-radius: 3px; background: var(--line); overflow: hidden; }
.bar b { display: block; height: 100%; background: var(--ink); }
.warning { margin: 0; color: var(--ochre); }
.warning::before { content: '◗ '; }
.el-select { flex: 1; }
</style>
