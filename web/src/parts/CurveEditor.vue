<script setup lang="ts">
import { computed, ref } from 'vue'
import { useCurves } from './useCurves'

/**
 * A curve through points: dragged, added with a double click, removed with Delete. The line between them is the
 * core's own.
 */
type Points = [number, number][]
const props = withDefaults(defineProps<{ modelValue: Points; label: string; width?: number; height?: number }>(), {
  width: 190,
  height: 118,
})
const emit = defineEmits<{ 'update:modelValue': [points: Points] }>()
const svg = ref<SVGSVGElement>()
const held = ref<number>()
const { path } = useCurves(() => [props.modelValue])
const line = computed(() => path(props.modelValue, props.width, props.height))

const round = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000
function at(event: MouseEvent): [number, number] {
  const box = svg.value!.getBoundingClientRect()
  return [round((event.clientX - box.left) / box.width), round(1 - (event.clientY - box.top) / box.height)]
}
/** The two ends keep to their sides; a point never passes the one beside it. */
function place(index: number, [x, y]: [number, number]) {
  const points = props.modelValue.map((one) => [...one] as [number, number])
  const before = index > 0 ? points[index - 1]![0] + 0.01 : 0
  const after = index < points.length - 1 ? points[index + 1]![0] - 0.01 : 1
  points[index] = [round(Math.min(after, Math.max(before, x))), round(y)]
  emit('update:modelValue', points)
}
function grab(index: number, event: PointerEvent) {
  held.value = index
  svg.value!.setPointerCapture(event.pointerId)
}
const move = (event: PointerEvent) => held.value !== undefined && place(held.value, at(event))
function add(event: MouseEvent) {
  const [x, y] = at(event)
  if (props.modelValue.length >= 32 || props.modelValue.some((point) => Math.abs(point[0] - x) < 0.01)) return
  emit(
    'update:modelValue',
    [...props.modelValue, [x, y] as [number, number]].sort((a, b) => a[0] - b[0]),
  )
}
function key(index: number, event: KeyboardEvent) {
  const steps: Record<string, [number, number]> = {
    ArrowRight: [0.02, 0],
    ArrowLeft: [-0.02, 0],
    ArrowUp: [0, 0.02],
    ArrowDown: [0, -0.02],
  }
  const step = steps[event.key]
  const [x, y] = props.modelValue[index]!
  if (step) {
    event.preventDefault()
    place(index, [x + step[0], y + step[1]])
  }
  if ((event.key === 'Delete' || event.key === 'Backspace') && props.modelValue.length > 2)
    emit(
      'update:modelValue',
      props.modelValue.filter((_, i) => i !== index),
    )
}
</script>

<template>
  <svg
    ref="svg"
    class="curve"
    :viewBox="`0 0 ${width} ${height}`"
    :style="{ width: `${width}px`, height: `${height}px` }"
    role="group"
    :aria-label="label"
    @pointermove="move"
    @pointerup="held = undefined"
    @pointercancel="held = undefined"
    @dblclick="add"
  >
    <path
      v-for="part in [0.25, 0.5, 0.75]"
      :key="part"
      class="grid"
      :d="`M${width * part} 0V${height}M0 ${height * part}H${width}`"
    />
    <path class="line" :d="line" />
    <circle
      v-for="([x, y], index) in modelValue"
      :key="index"
      :cx="x * width"
      :cy="(1 - y) * height"
      r="6"
      tabindex="0"
      role="slider"
      :aria-label="`Point ${index + 1} of ${label}`"
      :aria-valuetext="`${Math.round(x * 100)} % gives ${Math.round(y * 100)} %`"
      :aria-valuenow="Math.round(y * 100)"
      :class="{ held: held === index }"
      @pointerdown.prevent="grab(index, $event)"
      @dblclick.stop
      @keydown="key(index, $event)"
    />
  </svg>
</template>

<style scoped>
.curve {
  overflow: visible;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 6px;
  touch-action: none;
  cursor: crosshair;
}
.grid {
  stroke: var(--line);
  fill: none;
}
.line {
  stroke: var(--accent);
  stroke-width: 2;
  fill: none;
}
circle {
  fill: var(--card);
  stroke: var(--accent);
  stroke-width: 2;
  cursor: grab;
}
circle.held,
circle:focus-visible {
  fill: var(--accent);
  outline: none;
}
</style>
