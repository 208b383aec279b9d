<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import PartPicture from '../../parts/PartPicture.vue'
import { turns } from '../../parts/newest'
import { save } from '../../parts/save'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import PartPeek from './PartPeek.vue'

export type Part = components['schemas']['Part']
/** Tips, grains, drawings and preview pictures by themselves: what brushes are made of, and what waits on a shelf. */
const library = useLibrary()
const toast = useToast()
const route = useRoute()
const router = useRouter()
const parts = ref<Part[]>()
const word = ref('')
const picked = ref(new Set<string>())
type Only = 'all' | 'tip' | 'grain' | 'drawing' | 'picture' | 'unused' | 'duplicates' | 'own' | 'hidden'
const KINDS: [Only, string][] = [
  ['all', 'all'],
  ['tip', 'tips'],
  ['grain', 'grains'],
  ['drawing', 'drawings'],
  ['picture', 'pictures'],
  ['unused', 'unused'],
  ['duplicates', 'nearly the same'],
  ['own', 'mine'],
  ['hidden', 'hidden'],
]
/** The filter in the address; an unknown one shows all. */
const only = computed<Only>(() => KINDS.find(([name]) => name === route.query.only)?.[0] ?? 'all')
const fits: Record<Only, (part: Part) => boolean> = {
  all: () => true,
  tip: ({ kind }) => kind === 'tip',
  grain: ({ kind }) => kind === 'grain',
  drawing: ({ kind }) => kind === 'drawing',
  picture: ({ kind }) => kind === 'picture',
  unused: ({ brushes }) => !brushes.length,
  duplicates: ({ like }) => like.length > 0,
  own: ({ own }) => own,
  hidden: () => true,
}
const shown = computed(() => {
  const asked = word.value.trim().toLowerCase()
  const said = ({ name, tags, brushes }: Part) =>
    [name, ...tags, ...brushes.map((brush) => brush.name)].some((text) => text.toLowerCase().includes(asked))
  return (parts.value ?? []).filter((part) => fits[only.value](part) && (!asked || said(part)))
})
const at = computed(() => shown.value.find(({ sum }) => sum === route.query.part))

const turn = turns()
async function load() {
  const mine = turn()
  await toast.attempt(async () => {
    const query = { hidden: only.value === 'hidden' }
    const asked = { params: { ...library.path().params, query } }
    const got = await of(api.GET('/api/libraries/{library}/shelf', asked))
    if (mine()) parts.value = got.parts
  })
}
watch([() => library.stamp, () => only.value === 'hidden'], load, { immediate: true })

const go = (query: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...query } })
function click(event: MouseEvent, part: Part) {
  if (event.ctrlKey || event.metaKey) return pick(part)
  go({ part: part.sum })
}
function pick({ sum }: Part) {
  const next = new Set(picked.value)
  if (!next.delete(sum)) next.add(sum)
  picked.value = next
}
const kit = () =>
  toast.attempt(async () => {
    const body = { sums: [...picked.value] }
    const asked = api.POST('/api/libraries/{library}/parts/kit', { ...library.path(), parseAs: 'blob', body })
    const blob = (await of(asked)) as unknown as Blob
    save(blob, (await asked).response)
    toast.done(`${picked.value.size} exported as plain files.`)
  })
const memory = (bytes: number) => (bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.ceil(bytes / 1000)} kB`)
const told = ({ kind, width, height, memory: bytes }: Part) =>
  kind === 'drawing' ? 'drawing, as lines' : `${kind} · ${width} × ${height} · ${memory(bytes)}`
const uses = (count: number) => (count ? `${count} ${count === 1 ? 'brush' : 'brushes'}` : 'unused')
</script>

<template>
  <div class="parts">
    <section>
      <header class="line">
        <h1>Parts</h1>
        <span class="soft">{{ shown.length }} {{ shown.length === 1 ? 'part' : 'parts' }}: a part is no brush yet</span>
        <span class="grow" />
        <button v-if="picked.size" class="plain" @click="kit">{{ picked.size }} as plain files</button>
        <button v-if="picked.size" class="plain" @click="picked = new Set()">None</button>
        <el-input
          v-model="word"
          class="find"
          size="small"
          placeholder="name, tag, brush"
          aria-label="Find a tip or grain"
          clearable
        />
      </header>
      <div class="options" role="group" aria-label="Which parts">
        <button
          v-for="[name, title] in KINDS"
          :key="name"
          type="button"
          :aria-pressed="only === name"
          @click="go({ only: name === 'all' ? undefined : name, part: undefined })"
        >
          {{ title }}
        </button>
      </div>
      <div class="grid" role="list" aria-label="Parts">
        <div v-for="part in shown" :key="part.sum" role="listitem" class="cell">
          <button
            type="button"
            class="part"
            :class="{ on: part === at, picked: picked.has(part.sum) }"
            :data-sum="part.sum"
            @click="click($event, part)"
          >
            <span class="well"><PartPicture :reference="`sha256:${part.sum}`" :label="part.name" /></span>
            <b :class="{ soft: !part.named }">{{ part.named ? part.name : `of ${part.name}` }}</b>
            <span class="soft small">{{ told(part) }}</span>
            <span class="small" :class="part.brushes.length ? 'soft' : 'unused'">{{ uses(part.brushes.length) }}</span>
          </button>
          <el-checkbox
            :model-value="picked.has(part.sum)"
            :aria-label="`Select ${part.name}`"
            @update:model-value="pick(part)"
          />
        </div>
      </div>
      <p v-if="parts && !shown.length" class="empty">
        {{ only === 'hidden' ? 'Nothing deleted.' : 'No matches.' }}
      </p>
    </section>
    <PartPeek v-if="at" :key="at.sum" :part="at" :all="parts ?? []" @go="go({ part: $event })" />
    <aside v-else class="hint soft">Click one to see where it’s used.</aside>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  height: 100%;
}
section {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  padding: 10px 16px 0;
}
.find {
  width: 190px;
}
.grid {
  flex: 1;
  overflow: auto;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(136px, 1fr));
  gap: 10px;
  align-content: start;
  padding: 2px 2px 20px;
}
.cell {
  position: relative;
}
.cell input {
  position: absolute;
  right: 8px;
  top: 8px;
  accent-color: var(--accent);
  opacity: 0;
}
.cell:hover input,
.cell input:checked,
.cell input:focus-visible {
  opacity: 1;
}
.part {
  display: grid;
  width: 100%;
  gap: 1px;
  padding: 6px;
  text-align: left;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  cursor: pointer;
}
.part:hover {
  border-color: var(--line-strong);
}
.part.on {
  outline: 2px solid var(--accent);
}
.part.picked {
  background: var(--accent-wash);
}
.well {
  display: grid;
  place-items: center;
  height: 104px;
  background: var(--strip);
  border-radius: 5px;
  overflow: hidden;
}
.well :deep(img) {
  max-width: 96px;
  max-height: 96px;
}
.part b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.unused {
  color: var(--ochre);
}
.hint {
  padding: 22px 18px;
}
</style>
