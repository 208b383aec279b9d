<script setup lang="ts">
import { ref } from 'vue'

/** The key of a brush: press it, then press the key; Delete takes it away. */
const props = defineProps<{ name: string; of?: string | null; clash?: string; fixed: boolean }>()
const emit = defineEmits<{ key: [key: string | null] }>()
const asking = ref(false)

/** What is held, in one order, then what is pressed. */
function pressed(event: KeyboardEvent) {
  const base = /^(Key|Digit|Numpad)?([A-Z0-9])$/.exec(event.code)?.[2] ?? /^F([1-9]|1\d|2[0-4])$/.exec(event.key)?.[0]
  if (!base) return undefined
  const held = [event.ctrlKey || event.metaKey ? 'Ctrl' : '', event.altKey ? 'Alt' : '', event.shiftKey ? 'Shift' : '']
  return [...held.filter(Boolean), base].join('+')
}
function hear(event: KeyboardEvent) {
  if (!asking.value || event.key === 'Tab') return
  event.preventDefault()
  event.stopPropagation()
  if (event.key === 'Escape') asking.value = false
  if (event.key === 'Delete' || event.key === 'Backspace') return give(null)
  const key = pressed(event)
  if (key) give(key)
}
function give(key: string | null) {
  asking.value = false
  if (key !== (props.of ?? null)) emit('key', key)
}
</script>

<template>
  <button
    class="key"
    :class="{ none: !of, clash, asking }"
    :disabled="fixed"
    :title="clash ?? (asking ? 'Press a key; Delete removes it, Escape cancels' : 'Click, then press the shortcut')"
    :aria-label="`Key of ${name}: ${of ?? 'none'}${clash ? `; ${clash}` : ''}`"
    @click="asking = true"
    @keydown="hear"
    @blur="asking = false"
  >
    {{ asking ? 'press…' : (of ?? '+') }}
  </button>
</template>

<style scoped>
.key {
  min-width: 40px;
  height: 26px;
  padding: 0 7px;
  border: 1px solid var(--line-strong);
  border-bottom-width: 3px;
  border-radius: 6px;
  background: var(--card);
  font-weight: 700;
  white-space: nowrap;
}
.none {
  border: 1px dashed var(--line-strong);
  color: var(--soft);
  font-weight: 400;
}
.clash {
  border-color: var(--madder);
  color: var(--madder);
}
.asking {
  border-color: var(--accent);
  color: var(--accent);
  font-weight: 500;
}
</style>
