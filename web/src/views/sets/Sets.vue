<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type BrushSet } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import ExportDialog from '../../parts/ExportDialog.vue'
import FormDialog from '../../parts/FormDialog.vue'
import OrderedList from '../../parts/OrderedList.vue'
import ResetDialog from '../../parts/ResetDialog.vue'
import { turns } from '../../parts/newest'
import { useArranged } from '../../parts/useArranged'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'

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
const dialog = ref<
  'reset' | 'proof' | 'export' | 'name' | 'copy' | 'split' | 'join' | 'subtract' | 'beside' | 'delete'
>()
const word = ref('')
const line = ref('')
const other = ref<number>()
const splitAt = ref(0)

// What a standing set holds now.
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
        api.GET('/api/libraries/{library}/wall/ids', {
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

function ask(what: typeof dialog.value) {
  problem.value = ''
  dialog.value = what
  word.value =
    what === 'name'
      ? chosen.value!.name
      : what === 'copy'
        ? `${chosen.value!.name}, copy`
        : what === 'split'
          ? `${chosen.value!.name}, rest`
          : ''
  line.value = chosen.value!.query ?? ''
  other.value = undefined
}
const others = computed(() => library.sets.filter(({ id }) => id !== chosen.value?.id))
const TITLES: Record<string, [string, string]> = {
  name: ['Rename', 'Rename'],
  copy: ['Copy to a new set', 'Copy'],
  split: ['Split in two', 'Split'],
  join: ['Join another set', 'Join'],
  subtract: ['Take out what another set holds', 'Take out'],
  beside: ['Another set beside it', 'Show it'],
  delete: ['Delete the set', 'Delete'],
}
const idsOf = async (set: BrushSet) =>
  set.query === null
    ? set.preset_ids
    : (
        await of(
          api.GET('/api/libraries/{library}/wall/ids', {
            params: { ...library.path().params, query: { q: set.query } },
          }),
        )
      ).ids

const at = (set: BrushSet) => ({ params: { path: { id: set.id } } })
const picked = () => library.sets.find(({ id }) => id === other.value)!
const deeds: Record<string, (set: BrushSet) => Promise<unknown>> = {
  async name(set) {
    await of(
      api.PUT('/api/sets/{id}/name', {
        ...at(set),
        body: { name: word.value, ...(set.query !== null ? { query: line.value } : {}) },
      }),
    )
    await library.load()
  },
  async copy(set) {
    const made = await of(
      api.POST('/api/libraries/{library}/sets', {
        ...library.path(),
        body: { name: word.value, preset_ids: held.value, sections: set.sections },
      }),
    )
    await library.load()
    await router.push({ query: { set: made.id } })
  },
  async split(set) {
    const done = await of(
      api.POST('/api/sets/{id}/split', {
        ...at(set),
        body: { name: word.value, preset_ids: set.preset_ids.slice(splitAt.value), before: set.preset_ids },
      }),
    )
    await library.load()
    toast.done(done.entry.summary, done.entry)
    await router.push({ query: { set: set.id, beside: done.set.id } })
  },
  async join(set) {
    await arranged.put(set.id, set.preset_ids, { ids: [...new Set([...set.preset_ids, ...(await idsOf(picked()))])] })
  },
  async subtract(set) {
    const gone = new Set(await idsOf(picked()))
    await arranged.put(set.id, set.preset_ids, { ids: set.preset_ids.filter((id) => !gone.has(id)) })
  },
  async beside(set) {
    await router.push({ query: { set: set.id, beside: other.value } })
  },
  async delete(set) {
    const { entry } = await of(api.DELETE('/api/sets/{id}', at(set)))
    await router.replace({ query: {} })
    await library.load()
    toast.done(entry.summary, entry)
  },
}
const { busy, problem, go } = useDeed(async () => {
  await deeds[dialog.value!]!(chosen.value!)
  dialog.value = undefined
})

/** Within each section, so that the sections stay. */
const orderBy = (order: 'name' | 'size' | 'colour' | 'use' | 'changed') =>
  toast.attempt(async () => {
    const set = chosen.value!
    const { ids } = await of(
      api.GET('/api/libraries/{library}/wall/ids', {
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
const onWall = () => router.push({ name: 'wall', query: { search: chosen.value!.line } })
const need = computed(() =>
  ['join', 'subtract', 'beside'].includes(dialog.value ?? '')
    ? other.value === undefined
    : dialog.value !== 'delete' && !word.value.trim(),
)
function askToSplit(at: number) {
  splitAt.value = at
  ask('split')
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
        >{{ one.query !== null ? 'fills itself · ' : '' }}{{ one.count }}</span
      >
    </Chooser>
    <section v-if="chosen">
      <div class="line head">
        <h1>{{ chosen.name }}</h1>
        <span class="soft">{{
          chosen.query !== null
            ? `fills itself: ${chosen.query}`
            : `${chosen.preset_ids.length} brushes, drag them into the order you want`
        }}</span>
        <span class="grow" />
        <el-button
          v-if="session.mayEdit && chosen.query === null"
          :disabled="!fresh.length"
          @click="put(chosen, [...chosen.preset_ids, ...fresh])"
          >Add the tray · {{ fresh.length }}</el-button
        >
        <el-button :disabled="!held.length" @click="tray.add(held)">Pick all</el-button>
        <el-dropdown trigger="click" @command="($event as () => void)()">
          <el-button>More ▾</el-button>
          <template #dropdown
            ><el-dropdown-menu>
              <el-dropdown-item :command="onWall">Show on the Wall</el-dropdown-item>
              <el-dropdown-item v-if="others.length" :command="() => ask('beside')"
                >Another set beside it…</el-dropdown-item
              >
              <el-dropdown-item divided :command="() => (dialog = 'proof')">Proof sheet…</el-dropdown-item
              ><el-dropdown-item :command="() => (dialog = 'export')">Export…</el-dropdown-item
              ><el-dropdown-item v-if="session.mayEdit && held.length" :command="bundle"
                >Make a bundle of it</el-dropdown-item
              >
              <template v-if="session.mayEdit">
                <template v-if="chosen.query === null"
                  ><el-dropdown-item
                    v-for="[order, title] in [
                      ['name', 'name'],
                      ['size', 'size'],
                      ['colour', 'colour'],
                      ['use', 'use'],
                    ] as const"
                    :key="order"
                    :command="() => orderBy(order)"
                    >Order by {{ title }}</el-dropdown-item
                  >
                  <el-dropdown-item :command="() => ask('join')">Join another…</el-dropdown-item
                  ><el-dropdown-item :command="() => ask('subtract')"
                    >Take out what another holds…</el-dropdown-item
                  ></template
                >
                <el-dropdown-item :command="() => ask('copy')">Copy to a new set…</el-dropdown-item>
                <el-dropdown-item :command="() => (dialog = 'reset')">Reset its brushes…</el-dropdown-item>
                <el-dropdown-item :command="() => ask('name')">{{
                  chosen.query !== null ? 'Name and search…' : 'Rename…'
                }}</el-dropdown-item><el-dropdown-item :command="() => ask('delete')">Delete…</el-dropdown-item>
              </template>
            </el-dropdown-menu></template
          >
        </el-dropdown>
      </div>
      <div class="lists" data-scrolls>
        <OrderedList
          :ids="held"
          :sections="sectionsIn(chosen)"
          splits
          group="sets"
          :narrow="!!beside"
          :fixed="!session.mayEdit || chosen.query !== null"
          empty="This set is empty. Pick brushes on the Wall, then add the tray."
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
          close
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
    <FormDialog
      v-else-if="dialog && chosen"
      :title="`${TITLES[dialog]![0]}: ${chosen.name}`"
      :deed="TITLES[dialog]![1]"
      width="420px"
      :busy="busy"
      :ready="!need"
      :problem="problem"
      @submit="go"
      @close="dialog = undefined"
    >
      <p v-if="dialog === 'delete'" class="soft">Its brushes stay. This can be undone.</p>
      <el-select
        v-else-if="dialog === 'join' || dialog === 'subtract' || dialog === 'beside'"
        v-model="other"
        filterable
        default-first-option
        aria-label="The other set"
        placeholder="The other set"
        ><el-option v-for="one in others" :key="one.id" :value="one.id" :label="`${one.name} · ${one.count}`"
      /></el-select>
      <el-input v-else v-model="word" aria-label="Name of the set" maxlength="100" />
      <el-input
        v-if="dialog === 'name' && chosen.query !== null"
        v-model="line"
        aria-label="What it searches for"
        maxlength="500"
      />
      <p v-if="dialog === 'beside'" class="soft">
        Drag brushes from one list to the other; with Ctrl held they stay in both.
      </p>
      <p v-if="dialog === 'split'" class="soft">
        {{ splitAt }} stay in “{{ chosen.name }}”, {{ chosen.preset_ids.length - splitAt }} go to the new set.
      </p>
    </FormDialog>
    <div v-if="!chosen && route.query.set" class="empty" role="alert">
      <p>There is no such set in {{ session.library?.name }}. It may have been deleted; the Ledger tells.</p>
    </div>
    <div v-else-if="!chosen" class="empty"><p>No sets yet. Name one at the left, then fill it from the tray.</p></div>
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
</style>
