<script setup lang="ts">
import { computed } from 'vue'

/** One number that is dragged: its word, its slider, its value. */
const props = withDefaults(
  defineProps<{
    word: string
    value: number
    least?: number
    most: number
    step?: number
    unit?: string | null
    percent?: boolean
  }>(),
  { least: 0, step: undefined, unit: undefined },
)
const emit = defineEmits<{ set: [value: number] }>()
const factor = computed(() => (props.percent ? 100 : 1))
const shown = computed(() => Math.round(props.value * factor.value * 100) / 100)
const put = (value: number) => emit('set', value / factor.value)
</script>

<template>
  <label class="slider"
    ><span>{{ word }}</span
    ><input
      type="range"
      :aria-label="word"
      :min="least * factor"
      :max="most * factor"
      :step="step ?? (percent ? 1 : (most - least) / 200)"
      :value="shown"
      @input="put(Number(($event.target as HTMLInputElement).value))"
    /><span class="value">{{ shown }}{{ percent ? ' %' : unit ? ` ${unit}` : '' }}</span></label
  >
</template>

<style scoped>
.slider {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) 52px;
  gap: 10px;
  align-items: center;
}
.value {
  text-align: right;
}
input {
  width: 100%;
  accent-color: var(--accent);
  height: 16px;
}
</style>
