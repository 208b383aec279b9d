<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type Entry } from '../api/client'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import { useTray } from '../stores/tray'
import CopyDialog from './CopyDialog.vue'
import ExportDialog from './ExportDialog.vue'
import FitDialog from './FitDialog.vue'
import FormDialog from './FormDialog.vue'
import RenameDialog from './RenameDialog.vue'
import ResetDialog from './ResetDialog.vue'
import Strip from './Strip.vue'
import { useDeed } from './useDeed'

/** The presets picked so far, and what can be done with them all. */
const tray = useTray()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const router = useRouter()
type Question = 'bundle' | 'tag' | 'set' | 'family' | 'label' | 'hide' | 'duplicate'
const asking = ref<Question>()
const dialog = ref<'reset' | 'fit' | 'copy' | 'rename' | 'proof' | 'export'>()
const word = ref('')
const place = ref<number | 'end'>('end')
const NONE = 'none'
const questions: Record<Question, [title: string, deed: string, ask: string]> = {
  bundle: ['Make a bundle', 'Make it', 'Name of the bundle'],
  tag: ['Tag', 'Tag', 'A tag that is here, or a new one'],
  set: ['Add to set', 'Add', 'A set that is here, or a new one'],
  family: ['Put in a family', 'Put there', 'Family'],
  label: ['Work state', 'Set', 'Work state'],
  hide: ['Hide in the Attic', 'Hide', ''],
  duplicate: ['Duplicate', 'Duplicate', ''],
}

function ask(what: Question) {
  problem.value = ''
  asking.value = what
  place.value = 'end'
  word.value = what === 'family' || what === 'label' ? NONE : ''
}
const count = (n: number) => `${n} ${n === 1 ? 'brush' : 'brushes'}`
const target = computed(() =>
  library.sets.find(({ name, query }) => query === null && name.toLowerCase() === word.value.trim().toLowerCase()),
)
const places = computed(() => (target.value?.preset_ids ?? []).flatMap((id) => library.byId.get(id) ?? []))
const plain = computed(() => library.sets.filter(({ query }) => query === null))
const chooseSet = () => {
  place.value = 'end'
  library.need(target.value?.preset_ids ?? [])
}

/** Families in the order of the tree, named with those above them. */
const familyNames = computed(() => {
  const name = (id: number | null): string => {
    const family = id === null ? undefined : library.familyById.get(id)
    return family ? `${name(family.parent_id)}${family.parent_id ? ' / ' : ''}${family.name}` : ''
  }
  return library.families.map(({ id }) => ({ id, name: name(id) })).sort((a, b) => a.name.localeCompare(b.name))
})

async function entered(answer: Promise<{ entry: Entry }>) {
  const { entry } = await answer
  await library.load()
  toast.done(entry.summary, entry)
}
const body = () => ({ preset_ids: tray.ids })
const deeds: Record<Question, () => Promise<unknown>> = {
  tag: () =>
    entered(
      of(
        api.POST('/api/libraries/{library}/taggings', {
          ...library.path(),
          body: { tag: word.value.trim(), ...body() },
        }),
      ),
    ),
  family: () =>
    entered(
      of(
        api.POST('/api/libraries/{library}/placings', {
          ...library.path(),
          body: { kind: 'family', place: word.value === NONE ? null : Number(word.value), ...body() },
        }),
      ),
    ),
  label: () =>
    entered(
      of(
        api.POST('/api/libraries/{library}/placings', {
          ...library.path(),
          body: { kind: 'label', place: word.value === NONE ? null : Number(word.value), ...body() },
        }),
      ),
    ),
  // What was hidden leaves the tray, all of it.
  async hide() {
    const hidden = new Set(tray.ids)
    await entered(of(api.POST('/api/libraries/{library}/hidings', { ...library.path(), body: body() })))
    tray.put(tray.ids.filter((id) => !hidden.has(id)))
  },
  duplicate: () => entered(of(api.POST('/api/libraries/{library}/duplicates', { ...library.path(), body: body() }))),
  async bundle() {
    const made = await of(
      api.POST('/api/libraries/{library}/bundles', { ...library.path(), body: { name: word.value.trim(), ...body() } }),
    )
    toast.done(`The bundle “${made.name}” holds ${count(made.preset_ids.length)}.`)
    await router.push({ name: 'bundles', query: { bundle: made.id } })
  },
  async set() {
    const found = target.value
    if (found) {
      const rest = found.preset_ids.filter((id) => !tray.ids.includes(id))
      const at = place.value === 'end' ? rest.length : rest.indexOf(place.value)
      const ids = at < 0 ? [...rest, ...tray.ids] : [...rest.slice(0, at), ...tray.ids, ...rest.slice(at)]
      const { entry } = await of(
        api.PUT('/api/sets/{id}', {
          params: { path: { id: found.id } },
          body: { preset_ids: ids, before: found.preset_ids },
        }),
      )
      toast.done(entry.summary, entry)
    } else {
      await of(
        api.POST('/api/libraries/{library}/sets', { ...library.path(), body: { name: word.value.trim(), ...body() } }),
      )
      toast.done(`The set “${word.value.trim()}” holds ${count(tray.ids.length)}.`)
    }
    await library.load()
  },
}
const ready = computed(() => asking.value === 'hide' || asking.value === 'duplicate' || word.value.trim() !== '')

const { busy, problem, go } = useDeed(async () => {
  await deeds[asking.value!]()
  asking.value = undefined
})

const suggest = (text: string, give: (found: { value: string }[]) => void) => {
  const names = asking.value === 'tag' ? library.tags.map(({ name }) => name) : plain.value.map(({ name }) => name)
  give(names.filter((name) => name.toLowerCase().includes(text.toLowerCase())).map((value) => ({ value })))
}
const compare = () => router.push({ name: 'compare', query: { ids: tray.ids.slice(0, 6).join(',') } })
function more(what: Question | 'fit' | 'copy' | 'proof') {
  if (what === 'fit' || what === 'copy' || what === 'proof') dialog.value = what
  else ask(what)
}
</script>

<template>
  <footer aria-label="Tray" :class="{ empty: !tray.ids.length }">
    <b>Tray · {{ tray.ids.length }}</b>
    <div class="minis">
      <button
        v-for="preset in tray.presets"
        :key="preset.id"
        class="mini"
        :title="`Put ${preset.name} back`"
        :aria-label="`Put ${preset.name} back`"
        @click="tray.toggle(preset.id)"
      >
        <Strip :fingerprint="preset.fingerprint" :label="preset.name" />
      </button>
      <span v-if="tray.ids.length > tray.presets.length" class="soft"
        >and {{ tray.ids.length - tray.presets.length }} more</span
      >
      <span v-if="!tray.ids.length" class="soft">Pick brushes with Space or the + beside them; they gather here.</span>
    </div>
    <template v-if="tray.ids.length">
      <button class="plain" @click="tray.clear()">Clear</button>
      <template v-if="session.mayEdit">
        <el-button @click="ask('tag')">Tag</el-button>
        <el-button @click="ask('set')">Add to set</el-button>
        <el-button @click="dialog = 'rename'">Rename</el-button>
      </template>
      <el-button :disabled="tray.ids.length < 2" @click="compare">Compare</el-button>
      <template v-if="session.mayEdit">
        <el-button @click="dialog = 'reset'">Reset</el-button>
        <el-button @click="ask('bundle')">Bundle</el-button>
      </template>
      <el-dropdown trigger="click" @command="more">
        <el-button>More ▾</el-button>
        <template #dropdown
          ><el-dropdown-menu>
            <template v-if="session.mayEdit"
              ><el-dropdown-item command="family">Put in a family…</el-dropdown-item
              ><el-dropdown-item command="label">Work state…</el-dropdown-item
              ><el-dropdown-item command="duplicate">Duplicate…</el-dropdown-item
              ><el-dropdown-item command="fit">Fit to canvas…</el-dropdown-item
              ><el-dropdown-item command="copy">Copy settings to them…</el-dropdown-item
              ><el-dropdown-item command="hide">Hide…</el-dropdown-item></template
            >
            <el-dropdown-item command="proof">Proof sheet…</el-dropdown-item>
          </el-dropdown-menu></template
        >
      </el-dropdown>
      <el-button type="primary" @click="dialog = 'export'">Export</el-button>
    </template>
    <FormDialog
      v-if="asking"
      :title="`${questions[asking][0]}: ${count(tray.ids.length)}`"
      :deed="questions[asking][1]"
      width="420px"
      :busy="busy"
      :ready="ready"
      :problem="problem"
      @submit="go"
      @close="asking = undefined"
    >
      <p v-if="asking === 'hide'" class="soft">
        They go from the Wall to the Attic and can be brought back. Sets and start plans keep their places.
      </p>
      <p v-else-if="asking === 'duplicate'" class="soft">
        Each is copied under its next number, with its tags, family and work state.
      </p>
      <el-input
        v-if="asking === 'bundle'"
        v-model="word"
        :placeholder="questions[asking][2]"
        :aria-label="questions[asking][2]"
        maxlength="100"
      />
      <el-select
        v-if="asking === 'family'"
        v-model="word"
        filterable
        default-first-option
        :aria-label="questions[asking][2]"
        ><el-option :value="NONE" label="no family" /><el-option
          v-for="one in familyNames"
          :key="one.id"
          :value="String(one.id)"
          :label="one.name"
      /></el-select>
      <el-select v-else-if="asking === 'label'" v-model="word" :aria-label="questions[asking][2]"
        ><el-option :value="NONE" label="none" /><el-option
          v-for="one in library.workStates"
          :key="one.id"
          :value="String(one.id)"
          :label="one.name"
      /></el-select>
      <el-autocomplete
        v-if="asking === 'tag' || asking === 'set'"
        v-model="word"
        :placeholder="questions[asking][2]"
        :aria-label="questions[asking][2]"
        :fetch-suggestions="suggest"
        maxlength="60"
        class="wide"
        @change="chooseSet"
        @select="chooseSet"
      />
      <p
        v-if="
          asking === 'tag' && library.workStates.some(({ name }) => name.toLowerCase() === word.trim().toLowerCase())
        "
        class="soft"
      >
        “{{ word.trim() }}” is a work state as well. To set that, take Work state under More; a tag of the same name is
        another thing.
      </p>
      <label v-if="asking === 'set' && target" class="soft"
        >Place<el-select v-model="place" aria-label="Place in the set" filterable default-first-option
          ><el-option v-for="one in places" :key="one.id" :value="one.id" :label="`before ${one.name}`" /><el-option
            value="end"
            label="at the end" /></el-select
      ></label>
    </FormDialog>
    <FitDialog v-if="dialog === 'fit'" :ids="tray.ids" @close="dialog = undefined" />
    <CopyDialog v-if="dialog === 'copy'" :ids="tray.ids" @close="dialog = undefined" />
    <RenameDialog v-if="dialog === 'rename'" :ids="tray.ids" @close="dialog = undefined" />
    <ExportDialog
      v-if="dialog === 'proof' || dialog === 'export'"
      :which="{ preset_ids: tray.ids }"
      :count="tray.ids.length"
      :kind="dialog === 'proof' ? 'proof' : undefined"
      :title="session.library?.name ?? ''"
      @close="dialog = undefined"
    />
    <ResetDialog v-if="dialog === 'reset'" :only="tray.ids" @close="dialog = undefined" />
  </footer>
</template>

<style scoped>
footer {
  grid-column: 1 / 3;
  display: flex;
  align-items: center;
  gap: 8px;
  height: 56px;
  padding: 0 16px;
  background: var(--card);
  border-top: 1px solid var(--line);
  white-space: nowrap;
}
footer > .el-button + .el-button {
  margin-left: 0;
}
footer :deep(.el-button) {
  padding: 8px 11px;
}
footer.empty {
  height: 26px;
  font-size: 12px;
}
.minis {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: center;
  overflow-x: auto;
  min-width: 0;
  padding: 4px 2px;
}
.mini {
  flex: 0 0 100px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  border-radius: 6px;
}
.mini:hover {
  opacity: 0.6;
}
.wide {
  width: 100%;
}
</style>
