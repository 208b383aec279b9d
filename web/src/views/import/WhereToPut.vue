<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { ImportPlan } from '../../api/client'
import { useLibrary } from '../../stores/library'

/** Where what comes in is put: in a set, at a place, in a category, with tags, as a bundle. */
const props = defineProps<{ plan: ImportPlan }>()
const emit = defineEmits<{ place: [where: Record<string, unknown>] }>()
const library = useLibrary()
const USUAL = {
  set: '',
  place: 'end',
  mode: 'add' as 'add' | 'replace',
  category: undefined as number | undefined,
  tags: [] as string[],
  sets: true,
  bundle: false,
}
const where = reactive({ ...USUAL })
watch(
  () => props.plan,
  (plan) => Object.assign(where, USUAL, plan.where),
  { immediate: true },
)
const target = computed(() =>
  library.sets.find(({ name, query }) => query === null && name.toLowerCase() === where.set.trim().toLowerCase()),
)
const places = computed(() => (target.value?.preset_ids ?? []).flatMap((id) => library.byId.get(id) ?? []))
watch(target, (set) => set && library.need(set.preset_ids))
const place = () => emit('place', { ...where, set: where.set.trim(), category: where.category ?? null })
const suggest = (text: string, give: (found: { value: string }[]) => void) =>
  give(
    library.sets
      .filter(({ name, query }) => query === null && name.toLowerCase().includes(text.toLowerCase()))
      .map(({ name }) => ({ value: name })),
  )
</script>

<template>
  <form class="where" aria-label="Destination" @submit.prevent>
    <span class="soft">Add to</span>
    <label v-suggests
      >Set<el-autocomplete
        v-model="where.set"
        :fetch-suggestions="suggest"
        size="small"
        clearable
        placeholder="none"
        aria-label="Set"
        maxlength="100"
        @change="place"
        @select="place"
        @clear="place"
    /></label>
    <label v-if="target"
      >Where<el-select v-model="where.mode" size="small" aria-label="Add or replace" @change="place"
        ><el-option value="add" label="add" /><el-option value="replace" label="replace contents" /></el-select
    ></label>
    <label v-if="target && where.mode === 'add'"
      >at<el-select
        v-model="where.place"
        size="small"
        filterable
        default-first-option
        aria-label="Place in the set"
        @change="place"
        ><el-option value="start" label="the start" /><el-option
          v-for="one in places"
          :key="one.id"
          :value="String(one.id)"
          :label="`before ${one.name}`" /><el-option value="end" label="the end" /></el-select
    ></label>
    <label v-if="library.categories.length"
      >Category<el-select
        v-model="where.category"
        size="small"
        clearable
        placeholder="none"
        aria-label="Category"
        @change="place"
        ><el-option v-for="one in library.categories" :key="one.id" :value="one.id" :label="one.name" /></el-select
    ></label>
    <label
      >Tags<el-select
        v-model="where.tags"
        size="small"
        multiple
        filterable
        allow-create
        default-first-option
        collapse-tags
        placeholder="none"
        aria-label="Tags"
        @change="place"
        ><el-option v-for="one in library.tags" :key="one.id" :value="one.name" :label="one.name" /></el-select
    ></label>
    <el-checkbox
      v-if="plan.sets.length"
      v-model="where.sets"
      :label="`with its sets: ${plan.sets.slice(0, 3).join(', ')}${plan.sets.length > 3 ? ' …' : ''}`"
      @change="place"
    />
    <el-checkbox
      v-if="plan.words.licence && !plan.backup"
      v-model="where.bundle"
      :label="`as the bundle “${plan.words.name}”`"
      @change="place"
    />
    <span v-if="where.mode === 'replace' && target" class="changed"
      >replaced brushes leave the set; unused ones are hidden</span
    >
  </form>
</template>

<style scoped>
.where {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 6px 12px;
  margin-bottom: 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--card);
}
.where > span:first-child {
  align-self: center;
}
.where > label:not(.el-checkbox) {
  display: grid;
  font-size: 11.5px;
  color: var(--soft);
}
.where .el-select,
.where .el-autocomplete {
  width: 148px;
}
</style>
