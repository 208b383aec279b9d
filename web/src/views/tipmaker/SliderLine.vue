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
/** The slider answers a value beyond its ends with its end; it is not to change what was not touched. */
const held = computed(() => Math.min(props.most * factor.value, Math.max(props.least * factor.value, shown.value)))
const shown = computed(() => Math.round(props.value * factor.value * 100) / 100)
const put = (value: number) => emit('set', value / factor.value)
</script>

<template>
  <div class="slider">
    <span>{{ word }}</span><el-slider
      :aria-label="word"
      size="small"
      :min="least * factor"
      :max="most * factor"
      :step="step ?? (percent ? 1 : (most - least) / 200)"
      :show-tooltip="false"
      :model-value="held"
      @input="put($event as number)"
    /><span class="value">{{ shown }}{{ percent ? ' %' : unit ? ` ${unit}` : '' }}</span>
  </div>
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
.el-slider {
  height: 18px;
}
</style>
