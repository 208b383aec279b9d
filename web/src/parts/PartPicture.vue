<script setup lang="ts">
import { useLibrary } from '../stores/library'

/** A tip's or grain's picture, or a preview picture, as it lies on white paper. */
defineProps<{ reference: string; label: string; side?: 64 | 128 | 400 }>()
const library = useLibrary()
</script>

<template>
  <img
    :src="`/api/libraries/${library.loaded}/parts/${reference.slice(7)}.png?side=${side ?? 128}`"
    :alt="label"
    loading="lazy"
    draggable="false"
  />
</template>

<style scoped>
img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
  background: #fff;
}
</style>
