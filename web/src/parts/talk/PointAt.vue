<script lang="ts">
export interface Point {
  x: number
  y: number
}
</script>

<script setup lang="ts">
import Strip from '../Strip.vue'

/** A stroke with a place pointed at: set by a press or by the arrow keys, or only shown. */
const props = defineProps<{ fingerprint: string; label: string; moves?: boolean }>()
const at = defineModel<Point>('at')
const STEP = 0.02
const within = (share: number) => Math.min(1, Math.max(0, share))
function press(event: MouseEvent) {
  if (!props.moves || event.detail === 0) return
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  at.value = {
    x: within((event.clientX - box.left) / box.width),
    y: within((event.clientY - box.top) / box.height),
  }
}
const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function key(event: KeyboardEvent) {
  const way = WAYS[event.key]
  if (!props.moves || !way) return
  event.preventDefault()
  event.stopPropagation() // else the brush list would go to the next brush
  const { x, y } = at.value ?? { x: 0.5, y: 0.5 }
  at.value = { x: within(x + way[0] * STEP), y: within(y + way[1] * STEP * 3) }
}
</script>

<template>
  <component
    :is="moves ? 'button' : 'div'"
    :type="moves ? 'button' : undefined"
    class="point"
    :class="{ moves }"
    :aria-label="moves ? 'Point at a spot on the stroke: click it, or use the arrow keys' : undefined"
    @click="press"
    @keydown="key"
  >
    <Strip :fingerprint="fingerprint" :label="label" :wide="300" />
    <i v-if="at" :style="{ left: `${at.x * 100}%`, top: `${at.y * 100}%` }" />
  </component>
</template>

<style scoped>
.point {
  position: relative;
  display: block;
  width: 100%;
  max-width: 320px;
  padding: 0;
  border: 0;
  background: none;
}
.moves {
  cursor: crosshair;
}
i {
  position: absolute;
  width: 16px;
  height: 16px;
  margin: -8px 0 0 -8px;
  border: 2px solid var(--madder);
  border-radius: 50%;
  box-shadow: 0 0 0 1px #fff;
  pointer-events: none;
}
</style>
