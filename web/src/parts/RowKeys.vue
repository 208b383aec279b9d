<script setup lang="ts">
/** What moves, splits or takes out a row of an order made by hand. */
defineProps<{ name: string; first: boolean; last: boolean; sections?: boolean; splits?: boolean }>()
defineEmits<{ section: []; split: []; shift: [by: 1 | -1]; out: [] }>()
</script>

<template>
  <div class="line">
    <button
      v-if="sections"
      class="plain small"
      data-key="section"
      :aria-label="`Start a section at ${name}`"
      @click="$emit('section')"
    >
      Section
    </button>
    <button
      v-if="splits"
      class="plain small"
      data-key="split"
      :disabled="first"
      :aria-label="`Split before ${name}`"
      @click="$emit('split')"
    >
      Split
    </button>
    <button class="plain" data-key="up" :disabled="first" :aria-label="`Move ${name} up`" @click="$emit('shift', -1)">
      ↑
    </button>
    <button class="plain" data-key="down" :disabled="last" :aria-label="`Move ${name} down`" @click="$emit('shift', 1)">
      ↓
    </button>
    <button class="plain" data-key="out" :aria-label="`Remove ${name}`" @click="$emit('out')">✕</button>
  </div>
</template>
