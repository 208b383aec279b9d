<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import { useToast } from '../../stores/toast'

/** What a release would change here, strip beside strip: taken whole or in part, conflicts decided one by one. */
type Row = components['schemas']['Followed']
type Side = 'mine' | 'theirs'
const props = defineProps<{ follow: components['schemas']['Follow']; release?: number }>()
const emit = defineEmits<{ close: []; taken: [] }>()
const toast = useToast()
const target = ref<components['schemas']['Released']>()
const rows = ref<Row[]>([])
const left = ref(new Set<string>())
const choices = ref<Record<string, Record<string, Side>>>({})
const at = { params: { path: { id: props.follow.id } } }
const KINDS: Record<Row['kind'], string> = {
  new: 'new',
  same: 'the same',
  changed: 'changed',
  merged: 'changed in both; merged',
  conflict: 'changed in both',
  gone: 'removed; will be hidden',
  stays: 'removed; kept here',
}
onMounted(() =>
  toast.attempt(async () => {
    const params = { ...at.params, query: props.release ? { release: props.release } : {} }
    const got = await of(api.GET('/api/follows/{id}/update', { params }))
    target.value = got.release
    rows.value = got.rows
  }),
)
const shown = computed(() => rows.value.filter(({ kind, hidden }) => kind !== 'same' || hidden))
/** Whether a brush that is hidden here comes back: as was decided, or as it was proposed. */
const comesBack = (row: Row) =>
  (choices.value[row.id]?.hidden ?? (row.hidden === 'back' ? 'theirs' : 'mine')) === 'theirs'
const open = computed(() =>
  shown.value.filter(
    ({ id, kind, conflicts }) =>
      kind === 'conflict' && !left.value.has(id) && conflicts.some(({ key }) => !choices.value[id]?.[key]),
  ),
)
const strip = (row: Row, side: string) =>
  `/api/follows/${props.follow.id}/strips/${row.id}.png?release=${target.value!.id}&side=${side}`
const sides = (row: Row) =>
  [
    ['as imported', 'base', row.kind !== 'new' && row.kind !== 'same'],
    ['here', 'mine', !!row.preset],
    ['there', 'theirs', !['gone', 'stays', 'same'].includes(row.kind)],
  ] as [string, string, boolean][]
const choose = (row: Row, key: string, side: Side) =>
  (choices.value = { ...choices.value, [row.id]: { ...choices.value[row.id], [key]: side } })
function toggle(row: Row) {
  const next = new Set(left.value)
  if (!next.delete(row.id)) next.add(row.id)
  left.value = next
}
const { busy, problem, go } = useDeed(async () => {
  const only = left.value.size ? rows.value.map(({ id }) => id).filter((id) => !left.value.has(id)) : null
  const body = { release_id: target.value!.id, only, choices: choices.value }
  const { entry } = await of(api.POST('/api/follows/{id}/update', { ...at, body }))
  toast.done(`${entry.summary}.`, entry)
  emit('taken')
})
</script>

<template>
  <FormDialog
    :title="target ? `${follow.bundle} ${target.number}` : follow.bundle"
    :deed="left.size ? 'Update' : target ? `Update to ${target.number}` : 'Update'"
    width="860px"
    :busy="busy"
    :ready="!!target && !open.length"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <p v-if="target?.notes" class="notes">{{ target.notes }}</p>
    <p v-if="target && !shown.length" class="soft">Nothing to change.</p>
    <p v-if="open.length" class="missing">
      Still to decide: {{ open.map(({ name }) => name).join(', ') }}. Or leave them out.
    </p>
    <div class="rows">
      <article v-for="row in shown" :key="row.id" :class="{ out: left.has(row.id) }" :aria-label="row.name">
        <div class="line">
          <el-checkbox :model-value="!left.has(row.id)" :label="row.name" @change="toggle(row)" />
          <span class="soft"
            >{{ row.hidden && row.kind === 'same' ? 'the same, hidden here' : KINDS[row.kind]
            }}{{ row.why ? `: ${row.why}` : '' }}</span
          >
        </div>
        <div class="strips">
          <template v-for="[words, side, there] in sides(row)" :key="side"
            ><figure v-if="there && target">
              <img class="strip-of" :src="strip(row, side)" :alt="`${row.name}, ${words}`" loading="lazy" />
              <figcaption class="soft small">
                {{ words
                }}{{
                  side === 'theirs' && row.theirs.length
                    ? `: ${row.theirs.join(', ')}`
                    : side === 'mine' && row.mine.length
                      ? `: ${row.mine.join(', ')}`
                      : ''
                }}
              </figcaption>
            </figure></template
          >
        </div>
        <el-checkbox
          v-if="row.hidden"
          :model-value="comesBack(row)"
          :label="row.hidden === 'back' ? 'Hidden here: restore' : 'Hidden here by somebody: restore'"
          @change="choose(row, 'hidden', $event ? 'theirs' : 'mine')"
        />
        <div v-for="one in row.conflicts" :key="one.key" class="line conflict">
          <b>{{ one.title }}</b><span class="soft small">was {{ one.words.base }}</span>
          <el-radio-group
            :model-value="choices[row.id]?.[one.key]"
            :aria-label="`${row.name}, ${one.title}: whose?`"
            @update:model-value="choose(row, one.key, $event as Side)"
            ><el-radio value="theirs">Theirs, {{ one.words.theirs }}</el-radio
            ><el-radio value="mine">Ours, {{ one.words.mine }}</el-radio></el-radio-group
          >
        </div>
      </article>
    </div>
  </FormDialog>
</template>

<style scoped>
.rows {
  max-height: 52vh;
  overflow: auto;
}
article {
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
article.out {
  opacity: 0.5;
}
.strips {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px;
}
figure {
  margin: 0;
}
.notes {
  white-space: pre-line;
}
.conflict {
  padding-top: 4px;
}
</style>
