<script setup lang="ts">
import { useSession } from '../../stores/session'
import FamilyTree from './FamilyTree.vue'
import Tags from './Tags.vue'
import WorkStates from './WorkStates.vue'

/** What brushes are ordered by: families as a small tree, work states, tags. */
const session = useSession()
</script>

<template>
  <div class="page families" :inert="!session.mayEdit">
    <FamilyTree />
    <WorkStates />
    <Tags />
  </div>
</template>

<style scoped>
.families {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 32px;
  align-content: start;
}
.families :deep(p) {
  margin: 2px 0 8px;
}
.families :deep(.item) {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  border-top: 1px solid var(--line);
}
.families :deep(.item form) {
  flex: 1;
}
.families :deep(.add) {
  margin-top: 10px;
}
.families :deep(.el-select) {
  width: 120px;
  flex: none;
}
/* In a row, so that the name keeps its room. */
.families :deep(.item .el-select) {
  width: 92px;
}
</style>
