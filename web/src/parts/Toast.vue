<script setup lang="ts">
import { useToast } from '../stores/toast'
const toast = useToast()
</script>

<template>
  <div v-if="toast.text" class="toast" :class="toast.kind" :role="toast.kind === 'problem' ? 'alert' : 'status'">
    <span>{{ toast.text }}</span>
    <el-button v-if="toast.entry" size="small" @click="toast.undo(toast.entry)">Undo</el-button>
    <button class="plain" aria-label="Close this message" @click="toast.hide()">✕</button>
  </div>
</template>

<style scoped>
/* In the head line, so that nothing that can be pressed lies beneath; above dialogs, whose deeds it tells of. */
.toast {
  position: relative;
  z-index: 3000;
  flex: 0 1 auto;
  display: flex;
  align-items: center;
  gap: 10px;
  max-width: min(620px, 46vw);
  padding: 4px 8px 4px 14px;
  border-radius: 9px;
  background: var(--ink);
  color: var(--paper);
  font-weight: 500;
  font-size: 12.5px;
  line-height: 1.25;
}
.toast span {
  max-height: 42px;
  overflow: auto;
}
.toast.alone {
  position: fixed;
  left: 50%;
  top: 12px;
  transform: translateX(-50%);
}
.toast.problem {
  background: var(--madder-wash);
  color: var(--madder);
  border: 1px solid var(--madder);
}
.toast .plain {
  color: inherit;
}
</style>
