<script setup lang="ts">
import { ref } from 'vue'

/** A number to type. What is not a number, or beyond the limits, is put right when the field is left. */
const props = defineProps<{ modelValue: number; min: number; max: number; step: number; label: string }>()
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()

/** What is being typed: an answer from the server must not replace it half way. */
const typed = ref<string>()

const held = (value: number) => Math.min(props.max, Math.max(props.min, Math.round(value * 100) / 100))

function number(text: string) {
  const found = Number(text.replace(',', '.'))
  return text.trim() === '' || Number.isNaN(found) ? props.modelValue : held(found)
}

function take(event: Event) {
  const field = event.target as HTMLInputElement
  const value = number(field.value)
  typed.value = undefined
  field.value = String(value)
  if (value !== props.modelValue) emit('update:modelValue', value)
}

function nudge(steps: number) {
  const from = typed.value === undefined ? props.modelValue : number(typed.value)
  typed.value = undefined
  emit('update:modelValue', held(from + steps * props.step))
}
</script>

<template>
  <input
    type="text"
    inputmode="decimal"
    :value="typed ?? modelValue"
    :aria-label="label"
    @input="typed = ($event.target as HTMLInputElement).value"
    @change="take"
    @blur="typed = undefined"
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
