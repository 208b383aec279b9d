<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import CurveEditor from '../../parts/CurveEditor.vue'
import { onBench } from './useBench'

/** A person's adjustments, laid over any brush for this person only. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const mine = ref<components['schemas']['Adjustments']>()
const limited = ref(false)
const busy = ref(false)
type Sample = { x: number; y: number; pressure: number; tiltX: number; tiltY: number; t: number }
const strokes = ref<Sample[][]>([])
const field = ref<HTMLCanvasElement>()
let pen: number | undefined

onMounted(() =>
  bench.toast.attempt(async () => {
    mine.value = await of(api.GET('/api/adjustments'))
    limited.value = mine.value.maximum_size !== null
  }),
)

const point = (event: PointerEvent): Sample => ({
  x: event.offsetX,
  y: event.offsetY,
  pressure: event.pressure,
  tiltX: event.tiltX,
  tiltY: event.tiltY,
  t: event.timeStamp,
})
function down(event: PointerEvent) {
  pen = event.pointerId
  field.value!.setPointerCapture(pen)
  strokes.value.push([point(event)])
}
function move(event: PointerEvent) {
  if (event.pointerId !== pen) return
  const more = event.getCoalescedEvents?.().map(point) ?? []
  strokes.value.at(-1)!.push(...(more.length ? more : [point(event)]))
  const canvas = field.value!.getContext('2d')!
  const [a, b] = strokes.value.at(-1)!.slice(-2)
  if (!a || !b) return
  canvas.strokeStyle = getComputedStyle(field.value!).color
  canvas.lineWidth = 0.5 + b.pressure * 9
  canvas.beginPath()
  canvas.moveTo(a.x, a.y)
  canvas.lineTo(b.x, b.y)
  canvas.stroke()
}
function forget() {
  strokes.value = []
  field.value!.getContext('2d')!.clearRect(0, 0, 999, 999)
}
const fit = () =>
  bench.toast.attempt(async () => {
    const { curve } = await of(
      api.POST('/api/adjustments/fit', { body: { strokes: strokes.value as unknown as Record<string, number>[][] } }),
    )
    mine.value!.curve = curve
  })

async function save() {
  busy.value = true
  const { curve, smoothing, maximum_size, mirrored } = mine.value!
  const well = await bench.toast.attempt(async () => {
    mine.value = await of(
      api.PUT('/api/adjustments', {
        body: { curve, smoothing, maximum_size: limited.value ? (maximum_size ?? 100) : null, mirrored },
      }),
    )
    bench.trying.value = { ...bench.trying.value, adjustments: true }
    bench.toast.done('Adjustments saved. They apply to every brush, for you only; switch them on and off on the Bench.')
  })
  busy.value = false
  if (well) emit('close')
}
</script>

<template>
  <el-dialog model-value title="My adjustments" width="640px" @close="emit('close')">
    <p class="soft">Applied to every brush, for you only. Shared brushes stay as they are.</p>
    <div v-if="mine" class="two">
      <div>
        <h3>My pressure curve</h3>
        <CurveEditor
          :model-value="mine.curve as [number, number][]"
          label="my pressure"
          :width="240"
          :height="150"
          @update:model-value="mine.curve = $event"
        />
        <p class="small soft">Horizontal: what the pen sends. Vertical: what the brush gets.</p>
        <button
          class="plain"
          @click="
            mine.curve = [
              [0, 0],
              [1, 1],
            ]
          "
        >
          Linear
        </button>
      </div>
      <div>
        <h3>Fit to a few strokes</h3>
        <canvas
          ref="field"
          width="300"
          height="150"
          aria-label="Draw three or four strokes from light to hard"
          @pointerdown="down"
          @pointermove="move"
          @pointerup="pen = undefined"
        />
        <p class="small soft">Draw three or four strokes, from light to hard.</p>
        <button class="plain" :disabled="!strokes.length" @click="fit">
          Fit the curve to {{ strokes.length }} {{ strokes.length === 1 ? 'stroke' : 'strokes' }}
        </button>
        <button class="plain" :disabled="!strokes.length" @click="forget">Clear</button>
      </div>
    </div>
    <div v-if="mine" class="lines">
      <label class="line"
        ><span>Minimum smoothing</span
        ><el-slider
          :model-value="mine.smoothing * 100"
          :show-tooltip="false"
          aria-label="Minimum smoothing"
          @update:model-value="mine.smoothing = Math.round($event as number) / 100"
        />{{ Math.round(mine.smoothing * 100) }} %</label
      >
      <label class="line"
        ><span>Maximum size</span
        ><el-switch v-model="limited" size="small" aria-label="Limit the size" /><el-input-number
          v-if="limited"
          :model-value="mine.maximum_size ?? 100"
          size="small"
          :min="1"
          :max="5000"
          :controls="false"
          aria-label="Maximum size in px"
          @update:model-value="mine.maximum_size = $event ?? 100"
        /><span v-if="limited">px</span></label
      >
      <label class="line"
        ><span>Tilt mirrored, for a left hand</span
        ><el-switch v-model="mine.mirrored" size="small" aria-label="Tilt mirrored"
      /></label>
    </div>
    <template #footer
      ><el-button @click="emit('close')">Cancel</el-button
      ><el-button type="primary" :loading="busy" @click="save">Save adjustments</el-button></template
    >
  </el-dialog>
</template>

<style scoped>
.two {
  display: flex;
  gap: 24px;
}
h3 {
  margin: 6px 0;
}
p {
  margin: 4px 0;
}
canvas {
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink);
  touch-action: none;
  cursor: crosshair;
}
.lines {
  display: grid;
  gap: 6px;
  margin-top: 12px;
}
.lines .line > span:first-child {
  width: 190px;
}
.lines .el-slider {
  width: 200px;
  margin: 0 8px;
}
</style>
