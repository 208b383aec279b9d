<script setup lang="ts">
import { computed, ref } from 'vue'
import type { useSquare } from './useSquare'

/** A picture with the square that is taken of it: dragged, made larger by its corner, the wheel or the keys. */
const props = defineProps<{ src: string; square: ReturnType<typeof useSquare> }>()
const emit = defineEmits<{ unreadable: [] }>()
const SIDE = 280
const { width, height, left, top, side } = props.square
const scale = computed(() => SIDE / Math.max(width.value, height.value))
const frame = computed(() => ({
  left: `${left.value * scale.value}px`,
  top: `${top.value * scale.value}px`,
  width: `${side.value * scale.value}px`,
  height: `${side.value * scale.value}px`,
}))
const seen = (event: Event) => {
  const image = event.target as HTMLImageElement
  // A drawing may say no size.
  props.square.begin(image.naturalWidth || 300, image.naturalHeight || 300)
}

const grip = ref<{ id: number; x: number; y: number; corner: boolean }>()
function down(event: PointerEvent, corner: boolean) {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  grip.value = { id: event.pointerId, x: event.clientX, y: event.clientY, corner }
}
function move(event: PointerEvent) {
  const from = grip.value
  if (from?.id !== event.pointerId) return
  const [dx, dy] = [(event.clientX - from.x) / scale.value, (event.clientY - from.y) / scale.value]
  if (from.corner) {
    const [x, y] = [left.value, top.value]
    const room = Math.min(width.value - x, height.value - y)
    props.square.grow(Math.min(side.value + Math.max(dx, dy), room))
    props.square.to(x, y)
  } else props.square.to(left.value + dx, top.value + dy)
  grip.value = { ...from, x: event.clientX, y: event.clientY }
}
const up = () => (grip.value = undefined)

const STEP = 0.02
function key(event: KeyboardEvent) {
  const step = Math.max(1, side.value * STEP)
  const moves: Record<string, () => void> = {
    ArrowLeft: () => props.square.to(left.value - step, top.value),
    ArrowRight: () => props.square.to(left.value + step, top.value),
    ArrowUp: () => props.square.to(left.value, top.value - step),
    ArrowDown: () => props.square.to(left.value, top.value + step),
    '+': () => props.square.grow(side.value * 1.05),
    '-': () => props.square.grow(side.value / 1.05),
  }
  if (!moves[event.key]) return
  event.preventDefault()
  moves[event.key]!()
}
const wheel = (event: WheelEvent) => props.square.grow(side.value * (event.deltaY < 0 ? 1.05 : 1 / 1.05))
</script>

<template>
  <div
    class="sheet"
    :style="{ width: `${width * scale}px`, height: `${height * scale}px` }"
    @wheel.prevent="wheel"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="up"
  >
    <img
      :src="src"
      alt="The picture that it is taken from"
      draggable="false"
      @load="seen"
      @error="emit('unreadable')"
    />
    <div
      class="frame"
      tabindex="0"
      role="group"
      aria-label="The square that is taken: arrows move it, + and − change its size"
      :style="frame"
      @pointerdown="down($event, false)"
      @keydown="key"
    >
      <i class="corner" @pointerdown.stop="down($event, true)" />
    </div>
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  overflow: hidden;
  background: #fff;
  box-shadow: 0 0 0 1px var(--line-strong);
}
img {
  display: block;
  width: 100%;
  height: 100%;
}
.frame {
  position: absolute;
  cursor: move;
  touch-action: none;
  box-shadow:
    0 0 0 2px var(--accent),
    0 0 0 1000px rgb(20 20 20 / 45%);
}
.corner {
  position: absolute;
  right: -1px;
  bottom: -1px;
  width: 16px;
  height: 16px;
  background: var(--accent);
  cursor: nwse-resize;
}
</style>
