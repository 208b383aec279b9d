<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { ref } from 'vue'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import { save } from './save'

/** A printable sheet of strips. The choices are remembered. */
const props = defineProps<{ ids: number[]; title: string }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const title = ref(props.title)
const busy = ref(false)
const choice = useLocalStorage('fobrel.proof', { format: 'pdf' as 'pdf' | 'png', page: 'A4' as 'A4' | 'A3' | 'Letter', landscape: false, columns: 2, ground: 'white' as 'white' | 'grey' | 'black', shown: ['size', 'keys', 'traits', 'notes'] as ('size' | 'keys' | 'traits' | 'notes')[] })

async function go() {
  busy.value = true
  const well = await toast.attempt(async () => {
    const answer = await api.POST('/api/libraries/{library}/proofs', { ...library.path(), body: { preset_ids: props.ids, title: title.value, ...choice.value }, parseAs: 'blob' })
    const file = save((await of(Promise.resolve(answer))) as unknown as Blob, answer.response)
    toast.done(`${props.ids.length} brushes on ${file}. It went where this browser keeps its downloads.`)
  })
  busy.value = false
  if (well) emit('close')
}
</script>

<template>
  <el-dialog model-value :title="`Proof sheet of ${ids.length} ${ids.length === 1 ? 'brush' : 'brushes'}`" width="440px" @close="emit('close')">
    <form @submit.prevent="go">
      <label>Title<el-input v-model="title" aria-label="Title of the sheet" maxlength="100" /></label>
      <label class="line">As <el-radio-group v-model="choice.format" aria-label="File"><el-radio value="pdf">PDF</el-radio><el-radio value="png">PNG pages in a ZIP</el-radio></el-radio-group></label>
      <div class="line"><el-select v-model="choice.page" aria-label="Page size"><el-option v-for="one in ['A4', 'A3', 'Letter']" :key="one" :value="one" :label="one" /></el-select><el-checkbox v-model="choice.landscape" label="sideways" /><el-select v-model="choice.columns" aria-label="Columns"><el-option v-for="n in 4" :key="n" :value="n" :label="n === 1 ? '1 column' : `${n} columns`" /></el-select></div>
      <label class="line">Ground <el-radio-group v-model="choice.ground" aria-label="Ground"><el-radio v-for="one in ['white', 'grey', 'black']" :key="one" :value="one">{{ one }}</el-radio></el-radio-group></label>
      <el-checkbox-group v-model="choice.shown" aria-label="Shown under each strip"><el-checkbox v-for="one in ['size', 'keys', 'traits', 'notes']" :key="one" :value="one" :label="one" /></el-checkbox-group>
      <div class="line end"><el-button @click="emit('close')">Cancel</el-button><el-button type="primary" native-type="submit" :loading="busy">Make the sheet</el-button></div>
    </form>
  </el-dialog>
</template>

<style scoped>
form { display: grid; gap: 10px; white-space: normal; }
.end { justify-content: flex-end; }
.end :deep(.el-button + .el-button) { margin-left: 0; }
</style>
