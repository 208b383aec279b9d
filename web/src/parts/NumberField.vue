<script setup lang="ts">
/** A number to type. What is not a number, or beyond the limits, is put right when the field is left. */
const props = defineProps<{ modelValue: number; min: number; max: number; step: number; label: string }>()
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()

const held = (value: number) => Math.min(props.max, Math.max(props.min, Math.round(value * 100) / 100))

function take(event: Event) {
  const field = event.target as HTMLInputElement
  const typed = Number(field.value.replace(',', '.'))
  const value = field.value.trim() === '' || Number.isNaN(typed) ? props.modelValue : held(typed)
  field.value = String(value)
  if (value !== props.modelValue) emit('update:modelValue', value)
}

const nudge = (steps: number) => emit('update:modelValue', held(props.modelValue + steps * props.step))
</script>

<template>
  <input
    type="text"
    inputmode="decimal"
    :value="modelValue"
    :aria-label="label"
    @change="take"
    @focus="($event.target as HTMLInputElement).select()"
    @keydown.up.prevent="nudge(1)"
    @keydown.down.prevent="nudge(-1)"
    @keydown.enter="take"
  />
</template>

<style scoped>
input {
  width: 62px;
  font: inherit;
  font-size: 12px;
  text-align: center;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 5px;
  padding: 2px 4px;
}
input:hover {
  border-color: var(--line-strong);
}
</style>
