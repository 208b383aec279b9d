<script setup lang="ts">
import { useSession } from '../../stores/session'
import CategoryTree from './CategoryTree.vue'
import Tags from './Tags.vue'
import Statuses from './Statuses.vue'

/** What brushes are ordered by: categories as a small tree, statuses, tags. */
const session = useSession()
</script>

<template>
  <div class="page categories" :inert="!session.mayEdit">
    <CategoryTree />
    <Statuses />
    <Tags />
  </div>
</template>

<style scoped>
.categories {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 32px;
  align-content: start;
}
.categories :deep(p) {
  margin: 2px 0 8px;
}
.categories :deep(.item) {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  border-top: 1px solid var(--line);
}
.categories :deep(.item form) {
  flex: 1;
}
.categories :deep(.add) {
  margin-top: 10px;
}
.categories :deep(.el-select) {
  width: 120px;
  flex: none;
}
/* In a row, so that the name keeps its room. */
.categories :deep(.item .el-select) {
  width: 92px;
}
</style>
