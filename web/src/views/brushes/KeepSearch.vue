<script setup lang="ts">
import { ref } from 'vue'
import { api, of } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** A search that is kept fills a set by itself. */
const props = defineProps<{ query: string }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const name = ref('')

const keep = () =>
  toast.attempt(async () => {
    const body = { name: name.value.trim(), query: props.query }
    await of(api.POST('/api/libraries/{library}/sets', { ...library.path(), body }))
    toast.done(`“${body.name}” is now an automatic set.`)
    emit('close')
    await library.load()
  })
</script>

<template>
  <form class="line keep" @submit.prevent="keep">
    <el-input
      v-model="name"
      v-focus
      size="small"
      placeholder="Name of the automatic set"
      aria-label="Name of the automatic set"
      maxlength="100"
    /><el-button size="small" native-type="submit" :disabled="!name.trim()">Save</el-button
    ><button type="button" class="plain" @click="emit('close')">Cancel</button>
  </form>
</template>

<style scoped>
.keep {
  margin: 0;
  padding: 0 14px 6px;
}
.keep .el-input {
  width: 260px;
}
</style>
