<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../api/client'
import type { paths } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'
import FormDialog from './FormDialog.vue'
import { turns } from './newest'
import OneScale from './OneScale.vue'
import Strip from './Strip.vue'
import { useDeed } from './useDeed'

/** Shows what would go back to the version received, stroke by stroke, before it does. */
const props = defineProps<{ only?: number[]; first?: 'baseline' | 'current' | 'received' }>()
const emit = defineEmits<{ close: [] }>()
type Changed =
  paths['/api/libraries/{library}/changed']['get']['responses']['200']['content']['application/json']['presets'][number]

const library = useLibrary()
const toast = useToast()
const rows = ref<Changed[]>([])
const chosen = ref(new Set<number>())
const ready = ref(false)
const count = computed(() => chosen.value.size)

const to = ref<'baseline' | 'current' | 'received'>(props.first ?? 'baseline')
const turn = turns()
const load = () =>
  toast.attempt(async () => {
    ready.value = false
    const mine = turn()
    const { presets } = await of(
      api.GET('/api/libraries/{library}/changed', { params: { ...library.path().params, query: { to: to.value } } }),
    )
    if (!mine()) return
    rows.value = presets.filter(({ id }) => !props.only || props.only.includes(id))
    // What somebody else changed stays, unless it was picked or is ticked.
    chosen.value = new Set(rows.value.filter((row) => props.only || row.mine).map(({ id }) => id))
    ready.value = true
  })
onMounted(load)
watch(to, load)

const flip = (id: number) => (chosen.value.has(id) ? chosen.value.delete(id) : chosen.value.add(id))

const { busy, problem, go } = useDeed(async () => {
  const { entry } = await of(
    api.POST('/api/libraries/{library}/reset', {
      ...library.path(),
      body: { preset_ids: [...chosen.value], to: to.value },
    }),
  )
  await library.load()
  toast.done(entry.summary, entry)
  emit('close')
})
</script>

<template>
  <FormDialog
    title="Reset brushes"
    :deed="ready ? `Reset ${count} ${count === 1 ? 'brush' : 'brushes'}` : 'Counting…'"
    width="760px"
    :busy="busy"
    :ready="!!count"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <el-radio-group v-model="to" aria-label="Reset to">
      <el-radio value="baseline">To the baseline</el-radio
      ><el-radio value="current">To the current version (drafts only)</el-radio
      ><el-radio value="received">To the first version</el-radio>
    </el-radio-group>
    <p class="soft">Saved versions are kept, and this can be undone.</p>
    <div class="rows">
      <div class="row head soft"><span /><span>Brush</span><span>Now</span><span>Then</span></div>
      <OneScale v-for="row in rows" :key="row.id"
        ><label class="row">
          <el-checkbox :model-value="chosen.has(row.id)" :aria-label="`Reset ${row.name}`" @change="flip(row.id)" />
          <span
            ><b>{{ row.name }}</b
            ><br /><span class="soft small"
              >{{ row.draft ? 'unsaved change' : row.mine ? 'saved since' : 'saved since by somebody else' }}, back to
              version {{ row.to }}<br />{{ row.words.join(', ') }}</span
            ></span
          >
          <Strip :fingerprint="row.before" :greatest="row.greatest[0]" :label="`${row.name} now`" />
          <Strip :fingerprint="row.after" :greatest="row.greatest[1]" :label="`${row.name} then`" /> </label
      ></OneScale>
      <p v-if="ready && !rows.length">Nothing would change.</p>
    </div>
  </FormDialog>
</template>

<style scoped>
.rows {
  max-height: 50vh;
  overflow: auto;
  white-space: normal;
}
.row {
  display: grid;
  grid-template-columns: 24px 150px 1fr 1fr;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
}
.head {
  font-size: 11.5px;
}
</style>
