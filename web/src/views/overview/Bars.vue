<script setup lang="ts">
import { computed } from 'vue'

/** Counts as bars, the greatest as wide as there is room. */
const props = defineProps<{ bars: { name: string; count: number }[] }>()
const most = computed(() => Math.max(1, ...props.bars.map(({ count }) => count)))
</script>

<template>
  <ul class="bars">
    <li v-for="bar in bars" :key="bar.name">
      <span class="name" :title="bar.name">{{ bar.name }}</span>
      <span class="way"><span class="bar" :style="{ width: `${(100 * bar.count) / most}%` }" /></span>
      <span class="count">{{ bar.count }}</span>
    </li>
  </ul>
</template>

<style scoped>
.bars {
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 12.5px;
}
li {
  display: grid;
  grid-template-columns: minmax(90px, 34%) 1fr 38px;
  gap: 10px;
  align-items: center;
  line-height: 20px;
}
.name {
  text-align: right;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bar {
  display: block;
  height: 11px;
  border-radius: 3px;
  background: var(--accent);
}
.way {
  border-left: 1px solid var(--line);
}
.count {
  color: var(--soft);
  font-variant-numeric: tabular-nums;
}
</style>
