<script setup lang="ts">
/** The keys, listed. */
const open = defineModel<boolean>()
const keys = [
  ['/', 'Find a brush'],
  ['↑ ↓', 'Walk the Wall'],
  ['Space', 'Pick into the tray, or put back'],
  ['Enter', 'Open on the Bench'],
  ['Esc', 'Close what is open'],
  ['?', 'This list'],
]
</script>

<template>
  <el-dialog v-model="open" title="Keys" width="360px">
    <dl>
      <template v-for="[key, does] in keys" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></template>
    </dl>
  </el-dialog>
</template>

<style scoped>
dl { display: grid; grid-template-columns: 80px 1fr; row-gap: 8px; margin: 0; }
dd { margin: 0; }
kbd { font: inherit; font-weight: 700; border: 1px solid var(--line-strong); border-radius: 5px; padding: 1px 7px; }
</style>
