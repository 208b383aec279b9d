<script setup lang="ts">
import { COLUMNS } from './columns'

/** The names of the columns, above a Brushes shown as a table. */
defineProps<{ columns: readonly (keyof typeof COLUMNS)[] }>()
</script>

<template>
  <div class="head soft">
    <span class="mini">Stroke</span><span class="name">Name</span
    ><span v-for="column in columns" :key="column" :class="`of-${column}`">{{ COLUMNS[column] }}</span>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 14px;
  padding: 0 54px 3px 14px;
  font-size: 11.5px;
}
.head span {
  flex: 0 1 76px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.head .mini {
  flex: none;
  width: 120px;
}
.head .name {
  flex: 0 1 150px;
  min-width: 60px;
}
.head .of-traits,
.head .of-tags,
.head .of-notes {
  flex: 1 1 110px;
}
</style>
