<script setup lang="ts">
import FormDialog from '../../parts/FormDialog.vue'
import type { Effect } from './useDesk'

/** Which desks a change of a template alters, and how; before it is made. */
defineProps<{ name: string; effects: Effect[] }>()
const emit = defineEmits<{ go: []; leave: [] }>()
const some = (names: string[]) =>
  `${names.slice(0, 5).join(', ')}${names.length > 5 ? ` and ${names.length - 5} more` : ''}`
</script>

<template>
  <FormDialog
    :title="`Desks this affects below ${name}`"
    deed="Apply"
    cancel="Leave it"
    @submit="emit('go')"
    @close="emit('leave')"
  >
    <div v-for="one in effects" :key="one.desk" class="one">
      <b>{{ one.desk }}</b>
      <div v-if="one.added.length">+ {{ some(one.added) }}</div>
      <div v-if="one.gone.length" class="missing">− {{ some(one.gone) }}</div>
      <div v-if="one.moved.length" class="soft">moved: {{ some(one.moved) }}</div>
      <div v-if="one.keys.length" class="soft">other keys: {{ some(one.keys) }}</div>
    </div>
    <p class="soft">Their folders stay unchanged until their plans are sent.</p>
  </FormDialog>
</template>

<style scoped>
.one {
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
</style>
