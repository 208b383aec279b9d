<script setup lang="ts">
import type { components } from '../../api/schema'
import OneScale from '../../parts/OneScale.vue'
import Strip from '../../parts/Strip.vue'

/** Two releases, brush by brush, with what each paints. */
defineProps<{ compared: components['schemas']['ReleaseComparison'] }>()
</script>

<template>
  <h2>What differs</h2>
  <OneScale v-for="row in compared.rows" :key="row.name"
    ><div class="differ">
      <b>{{ row.name }}</b><Strip
        v-if="row.before"
        :fingerprint="row.before.fingerprint"
        :greatest="row.before.greatest ?? undefined"
        :label="`${row.name} before`"
      /><span v-else class="soft">added</span
      ><Strip
        v-if="row.after"
        :fingerprint="row.after.fingerprint"
        :greatest="row.after.greatest ?? undefined"
        :label="`${row.name} after`"
      /><span v-else class="missing">removed</span>
    </div></OneScale
  >
  <p v-if="!compared.rows.length" class="soft">No brush differs.</p>
</template>

<style scoped>
.differ {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 8px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
  align-items: center;
}
.differ b {
  grid-column: 1 / 3;
}
h2 {
  margin-bottom: 4px;
}
</style>
