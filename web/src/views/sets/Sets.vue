<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type BrushSet } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import ExportDialog from '../../parts/ExportDialog.vue'
import OrderedList from '../../parts/OrderedList.vue'
import ResetDialog from '../../parts/ResetDialog.vue'
import { turns } from '../../parts/newest'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import { quoted } from '../wall/terms'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const chosen = computed(() => library.sets.find(({ id }) => id === Number(route.query.set)) ?? library.sets[0])
const beside = computed(() => library.sets.find(({ id }) => id === Number(route.query.beside) && id !== chosen.value?.id))
const fresh = computed(() => tray.ids.filter((id) => !chosen.value?.preset_ids.includes(id)))
const dialog = ref<'reset' | 'proof' | 'export' | 'name' | 'copy' | 'split' | 'join' | 'subtract' | 'delete'>()
const word = ref('')
const line = ref('')
const other = ref<number>()
const splitAt = ref(0)
const busy = ref(false)
watch(() => session.libraryId, () => router.replace({ query: {} }))

// What a standing set holds now.
const standing = ref<number[]>([])
const turn = turns()
watch([chosen, () => library.stamp], async ([set]) => {
  const mine = turn()
  standing.value = []
  if (!set?.query) return
  await toast.attempt(async () => {
    const { ids } = await of(api.GET('/api/libraries/{library}/wall/ids', { params: { ...library.path().params, query: { q: set.query! } } }))
    if (mine()) standing.value = ids
  })
}, { immediate: true })
const held = computed(() => (chosen.value?.query !== null ? standing.value : (chosen.value?.preset_ids ?? [])))

const put = (set: BrushSet, ids: number[], sections?: Record<string, string>) =>
  toast.attempt(async () => {
    const before = [...set.preset_ids]
    set.preset_ids = ids
    try {
      const { entry } = await of(api.PUT('/api/sets/{id}', { params: { path: { id: set.id } }, body: { preset_ids: ids, before, ...(sections ? { sections } : {}) } }))
      toast.done(entry.summary, entry)
    } finally {
      await library.load()
    }
  })

async function make(name: string, more: { preset_ids?: number[]; sections?: Record<string, string> } = {}) {
  let id: number | undefined
  await toast.attempt(async () => {
    id = (await of(api.POST('/api/libraries/{library}/sets', { ...library.path(), body: { name, ...more } }))).id
    await library.load()
  })
  return id
}

function ask(what: typeof dialog.value) {
  dialog.value = what
  word.value = what === 'name' ? chosen.value!.name : what === 'copy' ? `${chosen.value!.name}, copy` : what === 'split' ? `${chosen.value!.name}, rest` : ''
  line.value = chosen.value!.query ?? ''
  other.value = undefined
}
const others = computed(() => library.sets.filter(({ id }) => id !== chosen.value?.id))
const TITLES: Record<string, [string, string]> = { name: ['Rename', 'Rename'], copy: ['Copy to a new set', 'Copy'], split: ['Split in two', 'Split'], join: ['Join another set', 'Join'], subtract: ['Take out what another set holds', 'Take out'], delete: ['Delete the set', 'Delete'] }
const idsOf = async (set: BrushSet) => (set.query === null ? set.preset_ids : (await of(api.GET('/api/libraries/{library}/wall/ids', { params: { ...library.path().params, query: { q: set.query } } }))).ids)

async function go() {
  const set = chosen.value!
  const what = dialog.value
  busy.value = true
  let well = true
  if (what === 'name') well = await toast.attempt(async () => { await of(api.PUT('/api/sets/{id}/name', { params: { path: { id: set.id } }, body: { name: word.value, ...(set.query !== null ? { query: line.value } : {}) } })); await library.load() })
  if (what === 'copy') { const id = await make(word.value, { preset_ids: held.value, sections: set.sections }); well = id !== undefined; if (id) router.replace({ query: { set: id } }) }
  if (what === 'split') well = await toast.recorded(async () => {
    const done = await of(api.POST('/api/sets/{id}/split', { params: { path: { id: set.id } }, body: { name: word.value, preset_ids: set.preset_ids.slice(splitAt.value), before: set.preset_ids } }))
    router.replace({ query: { set: set.id, beside: done.set.id } })
    return done
  })
  if (what === 'join' || what === 'subtract') {
    const second = library.sets.find(({ id }) => id === other.value)
    well = !!second && (await toast.attempt(async () => {
      const ids = await idsOf(second!)
      await put(set, what === 'join' ? [...new Set([...set.preset_ids, ...ids])] : set.preset_ids.filter((id) => !ids.includes(id)))
    }))
  }
  if (what === 'delete') well = await toast.recorded(async () => { const done = await of(api.DELETE('/api/sets/{id}', { params: { path: { id: set.id } } })); router.replace({ query: {} }); return done })
  busy.value = false
  if (well) dialog.value = undefined
}

const orderBy = (order: 'name' | 'size' | 'colour' | 'use' | 'changed') => toast.attempt(async () => {
  const set = chosen.value!
  const { ids } = await of(api.GET('/api/libraries/{library}/wall/ids', { params: { ...library.path().params, query: { q: `set: ${quoted(set.name)}`, order } } }))
  await put(set, [...ids.filter((id) => set.preset_ids.includes(id)), ...set.preset_ids.filter((id) => !ids.includes(id))], {})
})
/** A bundle with the set's brushes, order and sections. */
const bundle = () => toast.attempt(async () => {
  const set = chosen.value!
  const made = await of(api.POST('/api/libraries/{library}/bundles', { ...library.path(), body: { name: set.name, preset_ids: held.value, sections: set.sections } }))
  await router.push({ name: 'bundles', query: { bundle: made.id } })
  toast.done(`The bundle “${made.name}” holds ${made.preset_ids.length} brushes.`)
})
const onWall = () => router.push({ name: 'wall', query: { search: chosen.value!.query ?? `set: ${quoted(chosen.value!.name)}` } })
const need = computed(() => (dialog.value === 'join' || dialog.value === 'subtract' ? other.value === undefined : dialog.value !== 'delete' && !word.value.trim()))
</script>

<template>
  <div class="page sets" :class="{ two: beside }">
    <Chooser v-slot="{ one }" title="Sets" :list="library.sets" :chosen="chosen?.id" by="set" :adds="session.mayEdit" add="Name of a new set" :make="make">
      <span :title="one.query !== null ? `Fills itself: ${one.query}` : undefined">{{ one.query !== null ? 'fills itself · ' : '' }}{{ one.count }}</span>
    </Chooser>
    <section v-if="chosen">
      <div class="line head">
        <h1>{{ chosen.name }}</h1>
        <span class="soft">{{ chosen.query !== null ? `fills itself: ${chosen.query}` : `${chosen.preset_ids.length} brushes, drag them into the order you want` }}</span>
        <span class="grow" />
        <el-button v-if="session.mayEdit && chosen.query === null" :disabled="!fresh.length" @click="put(chosen, [...chosen.preset_ids, ...fresh])">Add the tray · {{ fresh.length }}</el-button>
        <el-button :disabled="!held.length" @click="tray.add(held)">Pick all</el-button>
        <el-dropdown trigger="click" @command="($event as () => void)()">
          <el-button>More ▾</el-button>
          <template #dropdown><el-dropdown-menu>
            <el-dropdown-item :command="onWall">Show on the Wall</el-dropdown-item>
            <el-dropdown-item v-for="one in others" :key="one.id" :command="() => router.replace({ query: { set: chosen!.id, beside: one.id } })">Beside “{{ one.name }}”</el-dropdown-item>
            <el-dropdown-item divided :command="() => (dialog = 'proof')">Proof sheet…</el-dropdown-item><el-dropdown-item :command="() => (dialog = 'export')">Export…</el-dropdown-item><el-dropdown-item v-if="session.mayEdit && held.length" :command="bundle">Make a bundle of it</el-dropdown-item>
            <template v-if="session.mayEdit">
              <template v-if="chosen.query === null"><el-dropdown-item v-for="[order, title] in ([['name', 'name'], ['size', 'size'], ['colour', 'colour'], ['use', 'use']] as const)" :key="order" :command="() => orderBy(order)">Order by {{ title }}</el-dropdown-item>
                <el-dropdown-item :command="() => ask('join')">Join another…</el-dropdown-item><el-dropdown-item :command="() => ask('subtract')">Take out what another holds…</el-dropdown-item></template>
              <el-dropdown-item :command="() => ask('copy')">Copy to a new set…</el-dropdown-item>
              <el-dropdown-item :command="() => (dialog = 'reset')">Reset its brushes…</el-dropdown-item>
              <el-dropdown-item :command="() => ask('name')">{{ chosen.query !== null ? 'Name and search…' : 'Rename…' }}</el-dropdown-item><el-dropdown-item :command="() => ask('delete')">Delete…</el-dropdown-item>
            </template>
          </el-dropdown-menu></template>
        </el-dropdown>
      </div>
      <OrderedList :ids="held" :sections="chosen.sections" splits :narrow="!!beside" :fixed="!session.mayEdit || chosen.query !== null" empty="This set is empty. Pick brushes on the Wall, then add the tray." @change="(ids, sections) => put(chosen!, ids, sections)" @split="(at) => { splitAt = at; ask('split') }" />
    </section>
    <section v-if="beside">
      <div class="line head"><h1>{{ beside.name }}</h1><span class="soft">{{ beside.count }}</span><span class="grow" /><button class="plain" @click="router.replace({ query: { set: chosen!.id } })">close</button></div>
      <OrderedList :ids="beside.preset_ids" :sections="beside.sections" narrow :fixed="!session.mayEdit || beside.query !== null" empty="This set is empty." @change="(ids, sections) => put(beside!, ids, sections)" />
    </section>
    <ResetDialog v-if="dialog === 'reset'" :only="held" @close="dialog = undefined" />
    <ExportDialog v-else-if="(dialog === 'proof' || dialog === 'export') && chosen" :which="{ set: chosen.id }" :count="held.length" :kind="dialog === 'proof' ? 'proof' : undefined" :title="chosen.name" @close="dialog = undefined" />
    <el-dialog v-else-if="dialog && chosen" model-value :title="`${TITLES[dialog]![0]}: ${chosen.name}`" width="420px" @close="dialog = undefined">
      <form @submit.prevent="go">
        <p v-if="dialog === 'delete'" class="soft">Its brushes stay. This can be undone.</p>
        <el-select v-else-if="dialog === 'join' || dialog === 'subtract'" v-model="other" aria-label="The other set" placeholder="The other set"><el-option v-for="one in others" :key="one.id" :value="one.id" :label="`${one.name} · ${one.count}`" /></el-select>
        <el-input v-else v-model="word" aria-label="Name of the set" maxlength="100" autofocus />
        <el-input v-if="dialog === 'name' && chosen.query !== null" v-model="line" aria-label="What it searches for" maxlength="500" />
        <p v-if="dialog === 'split'" class="soft">{{ splitAt }} stay in “{{ chosen.name }}”, {{ chosen.preset_ids.length - splitAt }} go to the new set.</p>
        <div class="line end"><el-button @click="dialog = undefined">Cancel</el-button><el-button type="primary" native-type="submit" :disabled="need" :loading="busy">{{ TITLES[dialog]![1] }}</el-button></div>
      </form>
    </el-dialog>
    <div v-if="!chosen" class="empty"><p>No sets yet. Name one at the left, then fill it from the tray.</p></div>
  </div>
</template>

<style scoped>
.sets { display: grid; grid-template-columns: 240px minmax(0, 1fr); gap: 28px; align-content: start; }
.sets.two { grid-template-columns: 200px minmax(0, 1fr) minmax(0, 1fr); gap: 20px; }
.head { margin-bottom: 10px; white-space: nowrap; }
.head .soft { overflow: hidden; text-overflow: ellipsis; }
form { display: grid; gap: 12px; }
form p { margin: 0; }
.end { justify-content: flex-end; }
.end :deep(.el-button + .el-button) { margin-left: 0; }
</style>
