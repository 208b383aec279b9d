<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { hints } from '../hints'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'

/** What a view is for, until its reader has closed it for good. */
const route = useRoute()
const session = useSession()
const toast = useToast()
const name = computed(() => String(route.name))
const hint = computed(() => (session.unread(name.value) ? hints[name.value] : undefined))
</script>

<template>
  <div v-if="hint" class="hint" role="note">
    <span>{{ hint }}</span>
    <el-button size="small" @click="toast.attempt(() => session.readHint(name))">Got it</el-button>
  </div>
</template>

<style scoped>
.hint {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 5px 14px;
  background: var(--accent-wash);
  border-bottom: 1px solid var(--line);
}
</style>
