<script setup lang="ts">
import { computed, ref } from 'vue'
import { valueAt, withValue } from './settings'
import { onBench } from './useBench'

/** One drag for two settings at once: size across; up the hardness of a round tip, or the opacity of a picture. */
const bench = onBench()
const { detail, document } = bench
const field = ref<HTMLElement>()
const across = ['tip', 'size', 'base']
const up = computed(() =>
  document.value!.tip.form.kind === 'round' ? ['tip', 'form', 'hardness'] : ['paint', 'opacity'],
)
const word = computed(() => (up.value[1] === 'tip' ? 'hardness' : 'opacity'))
const most = computed(() => bench.list.value.find(({ path }) => path.join() === across.join())!.most)

// Sizes are felt as ratios, so the way across is even in ratios.
const place = (size: number) => Math.log(size) / Math.log(most.value)
const sizeAt = (x: number) => Math.max(1, Math.round(most.value ** x * 2) / 2)
const x = computed(() => Math.min(1, Math.max(0, place(valueAt(document.value!, across) as number))))
const y = computed(() => valueAt(document.value!, up.value) as number)
const baseline = computed(() => ({
  x: Math.min(1, Math.max(0, place(valueAt(detail.value!.baseline_document, across) as number))),
  y: valueAt(detail.value!.baseline_document, up.value) as number | undefined,
}))

function move(event: PointerEvent) {
  if (!(event.buttons & 1)) return
  const box = field.value!.getBoundingClientRect()
  const part = (value: number) => Math.min(1, Math.max(0, value))
  put(
    sizeAt(part((event.clientX - box.left) / box.width)),
    Math.round(part(1 - (event.clientY - box.top) / box.height) * 100) / 100,
  )
}
const put = (size: number, other: number) =>
  bench.tune(withValue(withValue(document.value!, across, size), up.value, other), 'two-way')
function key(event: KeyboardEvent) {
  const size = valueAt(document.value!, across) as number
  const steps: Record<string, [number, number]> = {
    ArrowRight: [1, 0],
    ArrowLeft: [-1, 0],
    ArrowUp: [0, 0.01],
    ArrowDown: [0, -0.01],
  }
  const step = steps[event.key]
  if (!step) return
  event.preventDefault()
  put(Math.max(1, size + step[0]), Math.min(1, Math.max(0, Math.round((y.value + step[1]) * 100) / 100)))
}
function grab(event: PointerEvent) {
  field.value!.setPointerCapture(event.pointerId)
  move(event)
}
</script>

<template>
  <div class="two">
    <div
      ref="field"
      class="field"
      role="application"
      tabindex="0"
      :aria-label="`Size across, ${word} up: drag, or use the arrow keys`"
      @pointerdown="grab"
      @pointermove="move"
      @keydown="key"
    >
      <i
        v-if="baseline.y !== undefined"
        class="baseline"
        :style="{ left: `${baseline.x * 100}%`, bottom: `${baseline.y * 100}%` }"
        title="Baseline"
      />
      <i class="dot" :style="{ left: `${x * 100}%`, bottom: `${y * 100}%` }" />
    </div>
    <span class="soft small said">{{ valueAt(document!, across) }} px · {{ word }} {{ Math.round(y * 100) }} %</span>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  gap: 0;
}
.said {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 11px;
}
.field {
  position: relative;
  height: 34px;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: linear-gradient(0deg, var(--rail), var(--card));
  cursor: crosshair;
  touch-action: none;
}
.field i {
  position: absolute;
  transform: translate(-50%, 50%);
  border-radius: 50%;
  pointer-events: none;
}
.dot {
  width: 12px;
  height: 12px;
  border: 2px solid var(--accent);
  background: var(--card);
}
.baseline {
  width: 8px;
  height: 8px;
  background: var(--ochre);
}
</style>
