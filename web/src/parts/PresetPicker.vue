<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import Strip from './Strip.vue'

/** Finds one brush of the library by its name. */
defineProps<{ label: string }>()
const emit = defineEmits<{ pick: [id: number]; close: [] }>()
const library = useLibrary()
const word = ref('')
const box = ref<{ focus: () => void }>()
onMounted(() => box.value?.focus())

const suggest = (text: string, give: (found: { value: string; id: number; fingerprint: string }[]) => void) =>
  of(
    api.GET('/api/libraries/{library}/brushes', {
      params: { ...library.path().params, query: { q: text.replace(/[:;]/g, ' '), limit: 30 } },
    }),
  )
    .then(({ presets }) => {
      library.know(presets)
      give(presets.map(({ id, name, fingerprint }) => ({ value: name, id, fingerprint })))
    })
    .catch(() => give([]))
</script>

<template>
  <span v-suggests class="picker">
    <el-autocomplete
      ref="box"
      v-model="word"
      size="small"
      :fetch-suggestions="suggest"
      :placeholder="label"
      :aria-label="label"
      :debounce="120"
      @select="emit('pick', ($event as { id: number }).id)"
      @keydown.esc="emit('close')"
    >
      <template #default="{ item }"
        ><span class="found"
          ><Strip :fingerprint="item.fingerprint" :label="item.value" />{{ item.value }}</span
        ></template
      >
    </el-autocomplete>
  </span>
</template>

<style scoped>
.found {
  display: flex;
  align-items: center;
  gap: 8px;
  line-height: 30px;
}
.found .strip {
  width: 90px;
  flex: none;
}
</style>
