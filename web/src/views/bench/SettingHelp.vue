<script setup lang="ts">
import { computed } from 'vue'
import Painted from '../../parts/Painted.vue'
import type { Document } from '../../api/client'
import type { Setting } from './settings'
import { onBench } from './useBench'

/** A setting's name; a click on it says what it does. Opacity and flow are told apart by painting both. */
const props = defineProps<{ one: Setting }>()
const { document } = onBench()
const painted = computed(() => ['pigment.opacity', 'pigment.flow'].includes(props.one.path.join('.')))
/** This brush along a stroke that crosses itself, held by its opacity or by its flow. */
const crossing = (pigment: { opacity: number; flow: number }) => ({
  document: { ...document.value!, pigment: { ...(document.value!.pigment as Document), ...pigment } },
  try: { trial: 'crossing', colour: '#1d2026', size: 16 },
})
const examples = computed(() => [
  { title: 'opacity 35 %: even where it overlaps', ask: crossing({ opacity: 0.35, flow: 1 }) },
  { title: 'flow 8 %: builds up where it overlaps', ask: crossing({ opacity: 1, flow: 0.08 }) },
])
</script>

<template>
  <el-popover trigger="click" :hide-after="0" placement="right" :width="painted ? 340 : 260" :persistent="false">
    <template #reference
      ><button class="name" tabindex="-1" :title="one.help" :aria-label="`About ${one.title}`">
        {{ one.title }}
      </button></template
    >
    <p class="help">
      <b>{{ one.title }}</b><br />{{ one.help }}
    </p>
    <template v-if="painted">
      <figure v-for="example in examples" :key="example.title">
        <Painted :ask="example.ask" :label="example.title" />
        <figcaption class="small soft">{{ example.title }}</figcaption>
      </figure>
    </template>
  </el-popover>
</template>

<style scoped>
.name {
  font: inherit;
  color: var(--soft);
  text-align: left;
  padding: 0;
  border: 0;
  background: none;
  cursor: help;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name:hover {
  color: var(--ink);
}
.help {
  margin: 0;
  text-align: left;
  word-break: normal;
}
figure {
  margin: 8px 0 0;
}
</style>
