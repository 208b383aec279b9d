<script setup lang="ts">
import FormDialog from '../../parts/FormDialog.vue'
import type { Dropping } from './useGroups'

/** Asks before something is removed that sets fill themselves from. */
defineProps<{ dropping: Dropping }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <FormDialog
    :title="`Remove “${dropping.name}”`"
    deed="Delete"
    cancel="Keep it"
    width="440px"
    @submit="dropping.deed()"
    @close="$emit('close')"
  >
    <p>
      {{ dropping.sets.join(', ') }} {{ dropping.sets.length === 1 ? 'is automatic' : 'are automatic' }} from it and
      would become empty. The brushes stay, and this can be undone.
    </p>
  </FormDialog>
</template>
