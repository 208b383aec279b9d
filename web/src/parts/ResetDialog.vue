<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, of } from '../api/client'
import type { paths } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import Strip from './Strip.vue'

/** Shows what would go back to the edition received, stroke by stroke, before it does. */
const props = defineProps<{ only?: number[] }>()
const emit = defineEmits<{ close: [] }>()
type Changed = paths['/api/libraries/{library}/changed']['get']['responses']['200']['content']['application/json']['presets'][number]

const library = useLibrary()
const toast = useToast()
const rows = ref<Changed[]>([])
const chosen = ref(new Set<number>())
const ready = ref(false)
const busy = ref(false)
const count = computed(() => chosen.value.size)

onMounted(() =>
  toast.attempt(async () => {
    const { presets } = await of(api.GET('/api/libraries/{library}/changed', library.path()))
    rows.value = presets.filter(({ id }) => !props.only || props.only.includes(id))
    chosen.value = new Set(rows.value.map(({ id }) => id))
    ready.value = true
  }),
)

const flip = (id: number) => (chosen.value.has(id) ? chosen.value.delete(id) : chosen.value.add(id))

async function go() {
  busy.value = true
  const done = await toast.attempt(async () => {
    const { entry } = await of(api.POST('/api/libraries/{library}/reset', { ...library.path(), body: { preset_ids: [...chosen.value] } }))
    await library.load()
    toast.done(entry.summary, entry)
  })
  busy.value = false
  if (done) emit('close')
}
</script>

<template>
  <el-dialog model-value title="Back to the edition received" width="760px" @close="emit('close')">
    <p class="soft">What was saved stays among the editions, and this can be undone.</p>
    <div class="rows">
      <div class="row head soft"><span /><span>Brush</span><span>Now</span><span>Then</span></div>
      <label v-for="row in rows" :key="row.id" class="row">
        <el-checkbox :model-value="chosen.has(row.id)" :aria-label="`Take ${row.name} back`" @change="flip(row.id)" />
        <span><b>{{ row.name }}</b><br><span class="soft small">{{ row.draft ? 'unsaved change' : 'saved since' }}, back to edition {{ row.home }}</span></span>
        <Strip :fingerprint="row.before" :label="`${row.name} now`" />
        <Strip :fingerprint="row.after" :label="`${row.name} as received`" />
      </label>
      <p v-if="ready && !rows.length">Nothing has changed since it was received.</p>
    </div>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :disabled="!count" :loading="busy" @click="go">Take {{ count }} {{ count === 1 ? 'brush' : 'brushes' }} back</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.rows { max-height: 50vh; overflow: auto; white-space: normal; }
.row { display: grid; grid-template-columns: 24px 150px 1fr 1fr; gap: 10px; align-items: center; padding: 4px 0; }
.head { font-size: 11.5px; }
p { margin: 0 0 8px; }
</style>
