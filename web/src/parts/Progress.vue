<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { loading } from '../api/connection'

/** A thin line under the header while a view waits for the server for more than a moment. */
const late = refDebounced(loading, 300)
const shown = computed(() => loading.value && late.value)
</script>

<template>
  <div v-if="shown" class="progress" role="progressbar" aria-label="Loading" />
</template>

<style scoped>
.progress {
  position: absolute;
  top: 0;
  left: 0;
  right: 0;
  z-index: 40;
  height: 2px;
  overflow: hidden;
  pointer-events: none;
}
.progress::after {
  content: '';
  display: block;
  width: 35%;
  height: 100%;
  background: var(--accent);
  animation: pass 1.1s ease-in-out infinite;
}
@keyframes pass {
  from {
    transform: translateX(-100%);
  }
  to {
    transform: translateX(290%);
  }
}
@media (prefers-reduced-motion: reduce) {
  .progress::after {
    width: 100%;
    animation: none;
  }
}
</style>
