<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type BrushSet } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import ExportDialog from '../../parts/ExportDialog.vue'
import OrderedList from '../../parts/OrderedList.vue'
import ResetDialog from '../../parts/ResetDialog.vue'
import { turns } from '../../parts/newest'
import { useArranged } from '../../parts/useArranged'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import SetDialog, { type What } from './SetDialog.vue'
import SetMenu from './SetMenu.vue'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const chosen = computed(() =>
  route.query.set ? library.sets.find(({ id }) => id === Number(route.query.set)) : library.sets[0],
)
const beside = computed(() =>
  library.sets.find(({ id }) => id === Number(route.query.beside) && id !== chosen.value?.id),
)
const fresh = computed(() => tray.ids.filter((id) => !chosen.value?.preset_ids.includes(id)))
const dialog = ref<What | 'reset' | 'proof' | 'export'>()
const splitAt = ref(0)

// What an automatic set holds now.
const standing = ref<number[]>([])
const turn = turns()
watch(
  [chosen, () => library.stamp],
  async ([set]) => {
    const mine = turn()
    standing.value = []
    if (!set?.query) return
    await toast.attempt(async () => {
      const { ids } = await of(
        api.GET('/api/libraries/{library}/brushes/ids', {
          params: { ...library.path().params, query: { q: set.query! } },
        }),
      )
      if (mine()) standing.value = ids
    })
  },
  { immediate: true },
)

const arranged = useArranged(async (id, { ids, sections }, before) => {
  const { entry } = await of(
    api.PUT('/api/sets/{id}', {
      params: { path: { id } },
      body: { preset_ids: ids, before, ...(sections ? { sections } : {}) },
    }),
  )
  toast.done(entry.summary, entry)
}, library.load)
const put = (set: BrushSet, ids: number[], sections?: Record<string, string>) =>
  toast.attempt(() => arranged.put(set.id, set.preset_ids, { ids, sections }))
/** A set's brushes and sections as they stand on the screen, what is still being kept included. */
const idsIn = (set: BrushSet) => arranged.shown(set.id)?.ids ?? set.preset_ids
const sectionsIn = (set: BrushSet) => arranged.shown(set.id)?.sections ?? set.sections

const held = computed(() => (!chosen.value ? [] : chosen.value.query !== null ? standing.value : idsIn(chosen.value)))

async function make(name: string, more: { preset_ids?: number[]; sections?: Record<string, string> } = {}) {
  let id: number | undefined
  await toast.attempt(async () => {
    id = (await of(api.POST('/api/libraries/{library}/sets', { ...library.path(), body: { name, ...more } }))).id
    await library.load()
  })
  return id
}

/** Within each section, so that the sections stay. */
const orderBy = (order: 'name' | 'size' | 'colour' | 'use' | 'changed') =>
  toast.attempt(async () => {
    const set = chosen.value!
    const { ids } = await of(
      api.GET('/api/libraries/{library}/brushes/ids', {
        params: { ...library.path().params, query: { q: set.line, order } },
      }),
    )
    const rank = new Map(ids.map((id, index) => [id, index]))
    const names = [...new Set(set.preset_ids.map((id) => set.sections[id] ?? ''))]
    const place = (id: number) => [names.indexOf(set.sections[id] ?? ''), rank.get(id) ?? Infinity] as const
    const sorted = [...set.preset_ids].sort((a, b) => place(a)[0] - place(b)[0] || place(a)[1] - place(b)[1])
    await put(set, sorted, { ...set.sections })
  })
/** A bundle with the set's brushes, order and sections. */
const bundle = () =>
  toast.attempt(async () => {
    const set = chosen.value!
    const made = await of(
      api.POST('/api/libraries/{library}/bundles', {
        ...library.path(),
        body: { name: set.name, preset_ids: held.value, sections: set.sections },
      }),
    )
    await router.push({ name: 'bundles', query: { bundle: made.id } })
    toast.done(`The bundle “${made.name}” holds ${made.preset_ids.length} brushes.`)
  })
function askToSplit(at: number) {
  splitAt.value = at
  dialog.value = 'split'
}
</script>

<template>
  <div class="page sets" :class="{ two: beside }">
    <Chooser
      v-slot="{ one }"
      title="Sets"
      :list="library.sets"
      :chosen="chosen?.id"
      by="set"
      :adds="session.mayEdit"
      add="Name of a new set"
      :make="make"
    >
      <span :title="one.query !== null ? `Fills itself: ${one.query}` : undefined"
        >{{ one.query !== null ? 'automatic ·  ' : '' }}{{ one.count }}</span
      >
    </Chooser>
    <section v-if="chosen">
      <div class="line head">
        <h1>{{ chosen.name }}</h1>
        <span class="soft">{{
          chosen.query !== null
            ? `fills itself: ${chosen.query}`
            : `${chosen.preset_ids.length} brushes, drag to reorder`
        }}</span>
        <span class="grow" />
        <el-button
          v-if="session.mayEdit && chosen.query === null"
          :disabled="!fresh.length"
          @click="put(chosen, [...chosen.preset_ids, ...fresh])"
          >Add the tray ({{ fresh.length }})</el-button
        >
        <el-button :disabled="!held.length" @click="tray.add(held)">Select all</el-button>
        <SetMenu
          :set="chosen"
          :filled="held.length > 0"
          @ask="dialog = $event"
          @order="orderBy"
          @bundle="bundle"
          @brushes="router.push({ name: 'brushes', query: { search: chosen.line } })"
        />
      </div>
      <div class="lists" data-scrolls>
        <OrderedList
          :ids="held"
          :sections="sectionsIn(chosen)"
          splits
          group="sets"
          :narrow="!!beside"
          :fixed="!session.mayEdit || chosen.query !== null"
          empty="This set is empty. Select brushes, then add the tray."
          @change="(ids, sections) => put(chosen!, ids, sections)"
          @split="askToSplit"
        />
      </div>
    </section>
    <section v-if="beside">
      <div class="line head">
        <h1>{{ beside.name }}</h1>
        <span class="soft">{{ beside.count }}</span><span class="grow" /><button
          class="plain"
          @click="router.push({ query: { set: chosen!.id } })"
        >
          Close
        </button>
      </div>
      <div class="lists" data-scrolls>
        <OrderedList
          :ids="idsIn(beside)"
          :sections="sectionsIn(beside)"
          narrow
          group="sets"
          :fixed="!session.mayEdit || beside.query !== null"
          empty="This set is empty."
          @change="(ids, sections) => put(beside!, ids, sections)"
        />
      </div>
    </section>
    <ResetDialog v-if="dialog === 'reset'" :only="held" @close="dialog = undefined" />
    <ExportDialog
      v-else-if="(dialog === 'proof' || dialog === 'export') && chosen"
      :which="{ set: chosen.id }"
      :count="held.length"
      :kind="dialog === 'proof' ? 'proof' : undefined"
      :title="chosen.name"
      @close="dialog = undefined"
    />
    <SetDialog
      v-else-if="dialog && chosen"
      :what="dialog as What"
      :set="chosen"
      :held="held"
      :split-at="splitAt"
      :arranged="arranged"
      @close="dialog = undefined"
    />
    <div v-if="!chosen && route.query.set" class="empty" role="alert">
      <p>This set doesn’t exist in {{ session.library?.name }}. If it was deleted, History shows when.</p>
    </div>
    <div v-else-if="!chosen" class="empty"><p>No sets yet. Add one at the left, then fill it from the tray.</p></div>
  </div>
</template>

<style scoped>
/* Each list runs by itself, so that two can stand at the places wanted. */
.sets {
  display: grid;
  grid-template: minmax(0, 1fr) / 240px minmax(0, 1fr);
  gap: 28px;
  overflow: hidden;
  padding-bottom: 0;
}
.sets > :deep(aside),
.lists {
  overflow: auto;
}
.sets.two {
  grid-template-columns: 200px minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
}
section {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.head {
  margin-bottom: 10px;
  min-height: 34px;
  white-space: nowrap;
}
.head .soft {
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 820px) {
  .sets,
  .sets.two {
    grid-template: none / minmax(0, 1fr);
    overflow: auto;
  }
}
</style>
