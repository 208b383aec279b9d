<script setup lang="ts">
import { computed } from 'vue'
import { words } from '../stores/words'

/** A word that only Fobrel has: dotted underneath, with a card that says what it means and shows a stroke. */
const props = defineProps<{ word: string }>()
const entry = computed(() => words.value.glossary.find(({ word }) => word === props.word))
</script>

<template>
  <el-popover
    v-if="entry"
    :trigger="['hover', 'focus']"
    :show-after="300"
    :hide-after="0"
    :width="280"
    :persistent="false"
  >
    <template #reference
      ><span class="own" tabindex="0" :aria-label="`${word}: ${entry.text}`"
        ><slot>{{ word }}</slot></span
      ></template
    >
    <p>{{ entry.text }}</p>
    <img
      v-if="entry.painted"
      :src="`/api/glossary/${encodeURIComponent(word)}.png`"
      :alt="`A stroke showing ${word}`"
    />
  </el-popover>
  <slot v-else>{{ word }}</slot>
</template>

<style scoped>
.own {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  cursor: help;
}
p {
  margin: 0;
  text-align: left;
  word-break: normal;
}
img {
  display: block;
  width: 100%;
  margin-top: 8px;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
