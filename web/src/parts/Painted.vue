<script setup lang="ts">
import { watch } from 'vue'
import { useLibrary } from '../stores/library'
import { usePainted, type Ask } from './usePainted'

/** The strip of settings that are kept nowhere yet, following them as they change; zoomed, its pixels show. */
const props = withDefaults(defineProps<{ ask?: Ask; label: string; zoom?: number; told?: boolean; long?: boolean }>(), { zoom: 1 })
const emit = defineEmits<{ greatest: [size: number, full: number] }>()
const library = useLibrary()
const { src, problem, took, greatest, full } = usePainted(() => library.loaded!, () => props.ask, () => (props.long ? 'bench' : 'wall'))
watch(greatest, (size) => emit('greatest', size, full.value))
</script>

<template>
  <span class="painted" :class="{ zoomed: zoom > 1, long }" :title="told && took ? `painted in ${took} ms` : undefined">
    <img v-if="src" :src="src" :alt="`The stroke of ${label}`" draggable="false" decoding="sync" :style="zoom > 1 ? { width: `${zoom * (long ? 700 : 350)}px`, imageRendering: 'pixelated' } : {}" />
    <span v-if="problem" class="problem" role="alert">{{ problem }}</span>
  </span>
</template>

<style scoped>
.painted { position: relative; display: block; height: 56px; background: var(--strip); border: 1px solid var(--line); border-radius: 6px; overflow: hidden; }
.painted.long { height: 64px; }
.painted.zoomed { overflow: auto; }
img { display: block; width: 100%; height: 100%; object-fit: contain; }
.zoomed img { height: auto; max-width: none; }
.problem { position: absolute; inset: 0; display: grid; place-items: center; padding: 4px 10px; font-size: 12px; color: var(--madder); background: color-mix(in srgb, var(--madder-wash) 85%, transparent); }
</style>
