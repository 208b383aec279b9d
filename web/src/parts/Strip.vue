<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue'

/** A preset's strip on its own ground. The picture belongs to the content: the fingerprint is its address. */
defineProps<{ fingerprint?: string; src?: string; shape?: 'wall' | 'peek'; label: string; lazy?: boolean }>()
const image = ref<HTMLImageElement>()
// A picture that was scrolled past is let go at once: one that has not come yet would keep those in
// sight waiting, and ten thousand of them would fill the memory.
onBeforeUnmount(() => image.value?.removeAttribute('src'))
</script>

<template>
  <span class="strip" :class="{ tall: shape === 'peek' }">
    <img v-if="src || fingerprint" ref="image" :src="src ?? `/api/strips/${fingerprint}/${shape ?? 'wall'}.png`" :alt="`The stroke of ${label}`" :loading="lazy ? 'lazy' : undefined" draggable="false" />
  </span>
</template>

<style scoped>
.strip { display: block; background: var(--strip); border: 1px solid var(--line); border-radius: 6px; overflow: hidden; }
.strip { aspect-ratio: 700 / 120; }
.strip.tall { aspect-ratio: 536 / 240; }
img { display: block; width: 100%; height: 100%; object-fit: contain; }
</style>
