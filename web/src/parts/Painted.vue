<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { offline } from '../api/connection'
import { useLibrary } from '../stores/library'
import { paintedPlace, type Place } from './paintedPlace'
import { onScale } from './scale'
import { usePainted, type Ask } from './usePainted'

/**
 * The strip of settings that are kept nowhere yet, following them as they change. Zoomed, its pixels show
 * around the place in the middle, which can be dragged.
 */
const props = withDefaults(
  defineProps<{ ask?: Ask; label: string; zoom?: number; middle?: Place; told?: boolean; long?: boolean }>(),
  {
    zoom: 1,
    middle: () => ({ x: 0.5, y: 0.5 }),
  },
)
const emit = defineEmits<{ pan: [to: Place]; paint: [at: Place] }>()
const library = useLibrary()
const size = ref<number>()
const beside = onScale(() => size.value)
// Made anew only when something in it changed, so that nothing is asked for twice.
const wanted = computed(() => props.ask && (beside.value ? { ...props.ask, beside: beside.value } : props.ask))
const { src, problem, took, greatest, behind } = usePainted(
  () => library.loaded!,
  wanted,
  () => (props.long ? 'bench' : 'list'),
)

const box = ref<HTMLElement>()
const room = useElementSize(box)
const ratio = ref(1)
function loaded(event: Event) {
  const image = event.target as HTMLImageElement
  ratio.value = image.naturalWidth / image.naturalHeight
  size.value = greatest.value
  if (props.told) emit('paint', paintedPlace(image))
}

/** The whole picture as it is shown, px. */
const whole = computed(() => {
  const width = Math.min(room.width.value, room.height.value * ratio.value) * props.zoom
  return { width, height: width / ratio.value }
})
const zoomed = computed(() => props.zoom > 1)
const placed = computed(() => {
  if (!zoomed.value) return {}
  const { width, height } = whole.value
  const left = room.width.value / 2 - props.middle.x * width
  const top = room.height.value / 2 - props.middle.y * height
  return {
    position: 'absolute' as const,
    width: `${width}px`,
    height: `${height}px`,
    left: `${left}px`,
    top: `${top}px`,
    imageRendering: 'pixelated' as const,
  }
})

const held = (value: number) => Math.min(1, Math.max(0, value))
const move = (across: number, down: number) =>
  emit('pan', {
    x: held(props.middle.x - across / whole.value.width),
    y: held(props.middle.y - down / whole.value.height),
  })
function drag(event: PointerEvent) {
  if (zoomed.value && event.buttons & 1) move(event.movementX, event.movementY)
}
function grab(event: PointerEvent) {
  if (zoomed.value) box.value!.setPointerCapture(event.pointerId)
}
const KEYS: Record<string, [number, number]> = {
  ArrowLeft: [24, 0],
  ArrowRight: [-24, 0],
  ArrowUp: [0, 12],
  ArrowDown: [0, -12],
}
function key(event: KeyboardEvent) {
  const step = KEYS[event.key]
  if (!zoomed.value || !step) return
  event.preventDefault()
  move(...step)
}
</script>

<template>
  <span
    ref="box"
    class="painted"
    :class="{ zoomed, long }"
    :title="told && took ? `painted in ${took} ms` : undefined"
    :tabindex="zoomed ? 0 : undefined"
    @pointerdown="grab"
    @pointermove="drag"
    @keydown="key"
  >
    <img
      v-if="src"
      :src="src"
      :alt="`The stroke of ${label}`"
      :data-behind="behind"
      draggable="false"
      decoding="sync"
      :style="placed"
      @load="loaded"
    />
    <span v-if="problem" class="problem" role="alert">{{ problem }}</span>
    <span v-else-if="offline && behind" class="waiting">last stroke; waiting for the connection</span>
  </span>
</template>

<style scoped>
.painted {
  position: relative;
  display: block;
  height: 56px;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
}
.painted.long {
  height: var(--strip-height, 58px);
}
.painted.zoomed {
  cursor: grab;
  touch-action: none;
}
img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.zoomed img {
  max-width: none;
}
.problem,
.waiting {
  position: absolute;
  inset: auto 0 0;
  padding: 2px 10px;
  font-size: 11.5px;
}
.problem {
  color: var(--madder);
  background: color-mix(in srgb, var(--madder-wash) 92%, transparent);
}
.waiting {
  color: var(--ochre);
  background: color-mix(in srgb, var(--ochre-wash) 92%, transparent);
}
</style>
