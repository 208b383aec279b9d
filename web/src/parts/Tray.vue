<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import { useTray } from '../stores/tray'
import FitDialog from './FitDialog.vue'
import ResetDialog from './ResetDialog.vue'
import Strip from './Strip.vue'
import { save } from './save'

/** The presets picked so far, and what can be done with them all. */
const tray = useTray()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const asking = ref<'tag' | 'set' | 'export'>()
const word = ref('')
const resetting = ref(false)
const fitting = ref(false)
const busy = ref(false)
const changed = computed(() => tray.presets.filter(({ altered, draft }) => altered || draft))
const questions = { tag: ['Tag', 'Tag', 'A tag that is here, or a new one'], set: ['Add to set', 'Add', 'A set that is here, or a new one'], export: ['Export a package', 'Export', 'Name of the package'] } as const

function ask(what: 'tag' | 'set' | 'export') {
  asking.value = what
  word.value = what === 'export' ? (session.library?.name ?? '') : ''
}

const count = (n: number) => `${n} ${n === 1 ? 'brush' : 'brushes'}`

const deeds = {
  async tag() {
    const { entry } = await of(api.POST('/api/libraries/{library}/taggings', { ...library.path(), body: { tag: word.value.trim(), preset_ids: tray.ids } }))
    await library.load()
    toast.done(entry.summary, entry)
  },
  async set() {
    const found = library.sets.find(({ name }) => name.toLowerCase() === word.value.trim().toLowerCase())
    if (found) {
      const ids = [...new Set([...found.preset_ids, ...tray.ids])]
      const { entry } = await of(api.PUT('/api/sets/{id}', { params: { path: { id: found.id } }, body: { preset_ids: ids, before: found.preset_ids } }))
      toast.done(entry.summary, entry)
    } else {
      await of(api.POST('/api/libraries/{library}/sets', { ...library.path(), body: { name: word.value.trim(), preset_ids: tray.ids } }))
      toast.done(`The set “${word.value.trim()}” holds ${count(tray.ids.length)}.`)
    }
    await library.load()
  },
  async export() {
    const answer = await api.POST('/api/libraries/{library}/packages', { ...library.path(), body: { name: word.value, preset_ids: tray.ids }, parseAs: 'blob' })
    const file = save((await of(Promise.resolve(answer))) as unknown as Blob, answer.response)
    toast.done(`${count(tray.ids.length)} packed as ${file}. It went where this browser keeps its downloads.`)
  },
}

async function go() {
  const what = asking.value
  if (!what || !word.value.trim()) return
  busy.value = true
  if (await toast.attempt(deeds[what])) asking.value = undefined
  busy.value = false
}

const suggestions = (text: string, give: (found: { value: string }[]) => void) => {
  const names = (asking.value === 'tag' ? library.tags : library.sets).map(({ name }) => ({ value: name }))
  give(names.filter(({ value }) => value.toLowerCase().includes(text.toLowerCase())))
}
</script>

<template>
  <footer aria-label="Tray">
    <b>Tray · {{ tray.ids.length }}</b>
    <div class="minis">
      <button v-for="preset in tray.presets" :key="preset.id" class="mini" :title="`Put ${preset.name} back`" :aria-label="`Put ${preset.name} back`" @click="tray.toggle(preset.id)">
        <Strip :fingerprint="preset.fingerprint" :label="preset.name" />
      </button>
      <span v-if="!tray.ids.length" class="soft">Pick brushes with Space or the + beside them; they gather here.</span>
    </div>
    <template v-if="tray.ids.length">
      <button class="plain" @click="tray.clear()">Clear</button>
      <template v-if="session.mayEdit">
        <el-button @click="ask('tag')">Tag</el-button>
        <el-button @click="ask('set')">Add to set</el-button>
        <el-button @click="fitting = true">Fit to canvas</el-button>
        <el-button :disabled="!changed.length" @click="resetting = true">Reset{{ changed.length ? ` · ${changed.length}` : '' }}</el-button>
      </template>
      <el-button type="primary" @click="ask('export')">Export</el-button>
    </template>
    <el-dialog v-if="asking" model-value :title="`${questions[asking][0]}: ${count(tray.ids.length)}`" width="400px" @close="asking = undefined">
      <form @submit.prevent="go">
        <el-input v-if="asking === 'export'" v-model="word" autofocus :aria-label="questions[asking][2]" maxlength="100" />
        <el-autocomplete v-else v-model="word" autofocus :placeholder="questions[asking][2]" :aria-label="questions[asking][2]" :fetch-suggestions="suggestions" maxlength="60" class="wide" />
        <p v-if="asking === 'export'" class="soft">The package holds these brushes, the pictures they need, their tags and sets, and nothing else.</p>
        <div class="line end">
          <el-button @click="asking = undefined">Cancel</el-button>
          <el-button type="primary" native-type="submit" :disabled="!word.trim()" :loading="busy">{{ questions[asking][1] }}</el-button>
        </div>
      </form>
    </el-dialog>
    <FitDialog v-if="fitting" :ids="tray.ids" @close="fitting = false" />
    <ResetDialog v-if="resetting" :only="changed.map(({ id }) => id)" @close="resetting = false" />
  </footer>
</template>

<style scoped>
footer { grid-column: 1 / 3; display: flex; align-items: center; gap: 10px; padding: 0 16px; background: var(--card); border-top: 1px solid var(--line); white-space: nowrap; }
footer :deep(.el-button + .el-button) { margin-left: 0; }
.minis { flex: 1; display: flex; gap: 8px; align-items: center; overflow-x: auto; min-width: 0; padding: 4px 2px; }
.mini { flex: 0 0 108px; padding: 0; border: 0; background: none; cursor: pointer; border-radius: 6px; }
.mini:hover { opacity: .6; }
form { display: grid; gap: 14px; white-space: normal; }
form p { margin: 0; }
.end { justify-content: flex-end; }
.wide { width: 100%; }
</style>
