<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Looked } from './useTipWork'

/** How much of the mark has each tone, with black point, middle and white point to drag. */
const props = defineProps<{ looked?: Looked; gamma: number; found: boolean }>()
const emit = defineEmits<{ set: [name: 'black' | 'white' | 'gamma', value: number]; paper: [] }>()
const WIDTH = 256
const HEIGHT = 62
const area = ref<SVGSVGElement>()
const curve = computed(() => {
  const tones = props.looked?.tones ?? []
  const roots = tones.map(Math.sqrt)
  const most = Math.max(1, ...roots)
  const line = roots.map((one, tone) => `L${tone} ${(HEIGHT * (1 - one / most)).toFixed(1)}`)
  return `M0 ${HEIGHT}${line.join('')}L255 ${HEIGHT}Z`
})
const black = computed(() => props.looked?.black ?? 0)
const white = computed(() => props.looked?.white ?? 255)
/** The tone that paints at a half, by gamma. */
const middle = computed(() => white.value - (white.value - black.value) * 0.5 ** (1 / props.gamma))

function toneAt(event: PointerEvent) {
  const box = area.value!.getBoundingClientRect()
  return Math.round(Math.min(255, Math.max(0, ((event.clientX - box.left) / box.width) * WIDTH)))
}
function put(name: 'black' | 'white' | 'gamma', tone: number) {
  if (name === 'black') return emit('set', 'black', Math.min(tone, white.value - 1))
  if (name === 'white') return emit('set', 'white', Math.max(tone, black.value + 1))
  const share = Math.min(0.97, Math.max(0.03, (white.value - tone) / (white.value - black.value)))
  emit('set', 'gamma', Math.round((Math.log(0.5) / Math.log(share)) * 100) / 100)
}
function drag(event: PointerEvent, name: 'black' | 'white' | 'gamma') {
  const handle = event.currentTarget as SVGElement
  handle.setPointerCapture(event.pointerId)
  const move = (one: PointerEvent) => put(name, toneAt(one))
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', () => handle.removeEventListener('pointermove', move), { once: true })
}
const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }
function key(event: KeyboardEvent, name: 'black' | 'white' | 'gamma', tone: number) {
  const by = steps[event.key]
  if (!by) return
  event.preventDefault()
  put(name, Math.min(255, Math.max(0, Math.round(tone) + by)))
}
const handles = computed(() => [
  { name: 'black' as const, at: black.value, word: 'Black point' },
  { name: 'gamma' as const, at: middle.value, word: 'Middle' },
  { name: 'white' as const, at: white.value, word: 'White point' },
])
</script>

<template>
  <div class="tones">
    <svg ref="area" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" aria-hidden="true">
      <path :d="curve" />
      <line :x1="black" :x2="black" y1="0" :y2="HEIGHT" />
      <line :x1="white" :x2="white" y1="0" :y2="HEIGHT" />
    </svg>
    <button
      v-for="one in handles"
      :key="one.name"
      type="button"
      class="handle"
      role="slider"
      :aria-label="one.word"
      aria-valuemin="0"
      aria-valuemax="255"
      :aria-valuenow="Math.round(one.at)"
      :class="one.name"
      :style="{ left: `${(one.at / 255) * 100}%` }"
      @pointerdown="drag($event, one.name)"
      @keydown="key($event, one.name, one.at)"
    />
    <div class="line small soft words">
      <span>black to {{ black }}</span
      ><span>middle {{ gamma }}</span
      ><span
        >white from {{ white
        }}<button v-if="!found" type="button" class="plain" @click="$emit('paper')">· from the background</button></span
      >
    </div>
  </div>
</template>

<style scoped>
.tones {
  position: relative;
}
svg {
  display: block;
  width: 100%;
  height: 44px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 6px;
}
path {
  fill: var(--accent-wash);
  stroke: var(--accent);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
line {
  stroke: var(--line-strong);
  stroke-dasharray: 3 2;
  vector-effect: non-scaling-stroke;
}
.handle {
  position: absolute;
  top: 38px;
  width: 12px;
  height: 12px;
  margin-left: -6px;
  padding: 0;
  border: 2px solid var(--accent);
  border-radius: 50%;
  background: var(--card);
  cursor: ew-resize;
  touch-action: none;
}
.handle.black {
  background: var(--accent);
}
.words {
  justify-content: space-between;
  margin-top: 9px;
}
.words .plain {
  margin-left: 4px;
}
</style>
