<script setup lang="ts">
import type { Item, Listed } from './useCapture'

/** What would be saved along only if asked for, each with what there is to save. */
defineProps<{ items: Listed[]; left: string[] }>()
defineEmits<{ flip: [name: Item] }>()
</script>

<template>
  <fieldset>
    <legend>Also save</legend>
    <label v-for="one in items" :key="one.name" class="line">
      <el-switch
        :model-value="one.on"
        size="small"
        :disabled="!one.there"
        :aria-label="`Also save the ${one.title.toLowerCase()}`"
        @update:model-value="$emit('flip', one.name)"
      />
      <span>{{ one.title }}</span>
      <i v-if="one.colour" class="swatch" :style="{ background: one.colour }" />
      <span class="soft">{{ one.words }}</span>
    </label>
  </fieldset>
  <p v-if="left.length" class="soft">
    Not saved: {{ left.join(', ') }}. {{ left.length === 1 ? 'It was' : 'They were' }} on while you tried the brush.
  </p>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--line);
  border-radius: 7px;
  padding: 6px 12px 10px;
  margin: 0;
  display: grid;
  gap: 6px;
}
legend {
  font-weight: 700;
  font-size: 12px;
  padding: 0 4px;
}
.swatch {
  width: 22px;
  height: 14px;
  border-radius: 4px;
  border: 1px solid var(--line-strong);
}
</style>
