<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { enter } from './enter'

/**
 * A dialog that asks for something and does one deed: the cursor stands in its first field, Enter does the
 * deed, and what went wrong is said in it while what was typed stays.
 */
const props = withDefaults(
  defineProps<{
    title: string
    deed: string
    cancel?: string
    width?: string
    busy?: boolean
    ready?: boolean
    problem?: string
    danger?: boolean
  }>(),
  { ready: true, cancel: 'Cancel' },
)
const emit = defineEmits<{ submit: []; close: [] }>()
const form = ref<HTMLFormElement>()
const FIELDS =
  'textarea, input:not([type=checkbox]):not([type=radio]):not([readonly]):not([disabled]), .el-select input'

/** Whoever does the deed says that it is busy with the next tick only; a second press before that is none. */
let sent = false
async function submit() {
  if (!props.ready || props.busy || sent) return
  sent = true
  emit('submit')
  await nextTick()
  sent = false
}

function begin() {
  const field = form.value?.querySelector<HTMLInputElement>(`[data-first] input, ${FIELDS}`)
  // Where there is nothing to fill in, Enter still does the deed; but what cannot be undone wants to be reached for.
  if (!field && !props.danger) form.value?.querySelector<HTMLElement>('button[type=submit]')?.focus()
  const stand = () => {
    field?.focus()
    if (field?.type === 'text') field.select()
  }
  stand()
  // The menu that it was opened from gives the cursor back to its button when it has closed.
  setTimeout(() => form.value && !form.value.contains(document.activeElement) && stand(), MENU_CLOSES)
}
const MENU_CLOSES = 400
</script>

<template>
  <el-dialog model-value :title="title" :width="width ?? '460px'" @close="emit('close')" @opened="begin">
    <form ref="form" @submit.prevent="submit" @keydown.enter.capture="ready && enter($event, submit)">
      <slot />
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <div class="line end">
        <slot name="beside" />
        <el-button @click="emit('close')">{{ cancel }}</el-button>
        <el-button :type="danger ? 'danger' : 'primary'" native-type="submit" :disabled="!ready" :loading="busy">{{
          deed
        }}</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  white-space: normal;
}
form :deep(p) {
  margin: 0;
}
form :deep(label:not(.line, .el-radio, .el-checkbox)) {
  display: grid;
  gap: 3px;
}
.problem {
  color: var(--madder);
  background: var(--madder-wash);
  padding: 7px 10px;
  border-radius: 7px;
}
.end {
  justify-content: flex-end;
}
.end :deep(.el-button + .el-button) {
  margin-left: 0;
}
</style>
