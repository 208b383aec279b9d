<script setup lang="ts">
import { useToast } from '../stores/toast'
const toast = useToast()
</script>

<template>
  <div class="toasts">
    <div
      v-for="one in toast.messages"
      :key="one.id"
      class="toast"
      :class="one.kind"
      :role="one.kind === 'problem' ? 'alert' : 'status'"
    >
      <span>{{ one.text }}</span>
      <el-button v-if="one.entry" size="small" @click="toast.undo(one.entry)">Undo</el-button>
      <button class="plain" aria-label="Close this message" @click="toast.hide(one.id)">✕</button>
    </div>
  </div>
</template>

<style scoped>
/* At the lower right, above the tray and above the dialogs whose outcome it reports. */
.toasts {
  position: absolute;
  right: 14px;
  bottom: 14px;
  z-index: 3000;
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: 8px;
  max-width: min(520px, calc(100% - 28px));
}
.toast {
  display: flex;
  align-items: center;
  gap: 10px;
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
.toast.problem {
  background: var(--madder-wash);
  color: var(--madder);
  border: 1px solid var(--madder);
}
.toast .plain {
  color: inherit;
}
</style>
