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
/* At the lower right, above the tray and above the dialogs whose outcome it reports. */
.toast {
  position: absolute;
  right: 14px;
  bottom: 14px;
  z-index: 3000;
  display: flex;
  align-items: center;
  gap: 10px;
  max-width: min(520px, calc(100% - 28px));
  padding: 8px 10px 8px 14px;
  box-shadow: 0 4px 18px rgb(0 0 0 / 22%);
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
  right: 16px;
  bottom: 16px;
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
