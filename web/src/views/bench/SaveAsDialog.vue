<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import CaptureList from './CaptureList.vue'
import { onBench } from './useBench'
import { useCapture } from './useCapture'

/** A new brush from what lies on the Bench: its name, how it is found, its place, what is saved along. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, document, at, busy, library } = bench
const { items, captured, left, flip } = useCapture()
const from = detail.value!.preset
const name = ref(detail.value!.next_name)
const favourite = ref(false)
const tags = ref(from.tag_ids.flatMap((id) => library.tagById.get(id)?.name ?? []))
const category = ref<number | ''>(from.category_id ?? '')
const notes = ref(String(document.value!.about?.notes ?? ''))
const problem = ref('')

// --- its place in a set ------------------------------------------------------------------------
const sets = computed(() => library.sets.filter(({ query }) => query === null))
const set = ref<number | ''>('')
const place = ref<number | 'end'>('end')
const loaded = ref(true)
const inSet = computed(() => {
  const ids = sets.value.find(({ id }) => id === set.value)?.preset_ids ?? []
  return ids.flatMap((id) => library.byId.get(id) ?? [])
})

async function chooseSet(id: number | '') {
  set.value = id
  place.value = 'end'
  const ids = sets.value.find((one) => one.id === id)?.preset_ids ?? []
  loaded.value = false
  await bench.toast.attempt(() => library.need(ids))
  loaded.value = true
  // Beside the brush it came from, where that one is in the set.
  if (set.value === id && ids.includes(bench.id)) place.value = ids[ids.indexOf(bench.id) + 1] ?? 'end'
}
const first = detail.value!.sets[0]
if (first) chooseSet(first.id)

async function save() {
  problem.value = ''
  try {
    const got = await bench.doing(async () => {
      const places = set.value === '' ? [] : [{ set: set.value, before: place.value === 'end' ? null : place.value }]
      const order = { tags: tags.value, category: category.value === '' ? null : category.value, notes: notes.value }
      const body = {
        kept: detail.value!.kept,
        name: name.value.trim(),
        capture: captured.value,
        favourite: favourite.value,
        places,
        ...order,
      }
      const made = await of(api.POST('/api/presets/{id}/variations', { ...at, body }))
      await library.load()
      return made
    })
    emit('close')
    bench.toast.done(`Saved as new brush, “${got.preset.name}”. “${from.name}” stays as it was.`)
    await bench.router.push({ name: 'bench', params: { id: got.preset.id } })
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <FormDialog
    title="Save as new brush"
    deed="Save new brush"
    width="520px"
    :busy="busy"
    :ready="name.trim() !== ''"
    :problem="problem"
    @submit="save"
    @close="emit('close')"
  >
    <label>Name<el-input v-model="name" aria-label="Name of the new brush" maxlength="200" /></label>
    <div class="two">
      <label
        >Category<el-select
          v-model="category"
          filterable
          default-first-option
          :empty-values="[null]"
          aria-label="Category of the new brush"
          ><el-option value="" label="no category" /><el-option
            v-for="one in library.categories"
            :key="one.id"
            :value="one.id"
            :label="one.name" /></el-select
      ></label>
      <label
        >Tags<el-select
          v-model="tags"
          multiple
          filterable
          allow-create
          default-first-option
          aria-label="Tags of the new brush"
          placeholder="none"
          ><el-option v-for="one in library.tags" :key="one.id" :value="one.name" :label="one.name" /></el-select
      ></label>
      <label
        >Set<el-select :model-value="set" :empty-values="[null]" aria-label="Add to set" @update:model-value="chooseSet"
          ><el-option value="" label="no set" /><el-option
            v-for="one in sets"
            :key="one.id"
            :value="one.id"
            :label="one.name" /></el-select
      ></label>
      <label v-if="set !== '' && loaded"
        >Place<el-select v-model="place" aria-label="Place in the set" filterable default-first-option
          ><el-option v-for="one in inSet" :key="one.id" :value="one.id" :label="`before ${one.name}`" /><el-option
            value="end"
            label="at the end" /></el-select
      ></label>
    </div>
    <label
      >Notes<el-input
        v-model="notes"
        type="textarea"
        :rows="2"
        aria-label="Notes of the new brush"
        maxlength="10000"
        placeholder="What it’s good for"
    /></label>
    <label class="line"
      ><el-switch v-model="favourite" size="small" aria-label="Into favourites" /> Add to my favourites</label
    >
    <CaptureList :items="items" :left="left" @flip="flip" />
  </FormDialog>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
}
.two > * {
  min-width: 0;
}
</style>
