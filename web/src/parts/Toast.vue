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
.toast { position: fixed; left: 50%; bottom: 80px; transform: translateX(-50%); z-index: 3000; display: flex; align-items: center; gap: 14px; max-width: 720px; padding: 9px 12px 9px 16px; border-radius: 9px; background: var(--ink); color: var(--paper); box-shadow: 0 6px 24px rgb(0 0 0 / 25%); font-weight: 500; }
.toast.problem { background: var(--madder-wash); color: var(--madder); border: 1px solid var(--madder); }
.toast .plain { color: inherit; }
</style>
