<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { api, of, type Entry, type Family, type WorkState, type Tag } from '../../api/client'
import ExportDialog from '../../parts/ExportDialog.vue'
import FormDialog from '../../parts/FormDialog.vue'
import TagMark from '../../parts/TagMark.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { words } from '../../stores/words'
import { asks } from '../../parts/asks'

/** What brushes are ordered by: families as a small tree, work states, tags with their looks and synonyms. */
const library = useLibrary()
const session = useSession()
const toast = useToast()
const looks = computed(() => words.value.looks)
const fresh = reactive({ family: '', parent: 0, label: '' })
const family = ref<Family>()
const exporting = ref<(typeof library.branches)[number]>()
const label = ref<WorkState>()
const tag = ref<Tag & { words: string }>()
const merging = ref<number>()
const unusedOnly = ref(false)
const tags = computed(() => library.tags.filter(({ count }) => !unusedOnly.value || !count))
const at = (id: number) => ({ params: { path: { id } } })

const doing = (deed: () => Promise<unknown>) =>
  toast.attempt(async () => {
    await deed()
    await library.load()
  })
const count = (kind: 'families' | 'work_states', id: number) =>
  library.all?.[kind].find(({ key }) => key === String(id))?.count ?? 0
/** How many brushes hang on these families. */
const held = (ids: number[]) => ids.reduce((sum, id) => sum + count('families', id), 0)
const addFamily = () =>
  doing(async () => {
    await of(
      api.POST('/api/libraries/{library}/families', {
        ...library.path(),
        body: { name: fresh.family, parent_id: fresh.parent || null },
      }),
    )
    fresh.family = ''
  })
const saveFamily = () =>
  doing(async () => {
    const { id, name, parent_id } = family.value!
    await of(api.PUT('/api/families/{id}', { ...at(id), body: { name, parent_id } }))
    family.value = undefined
  })
/** What is about to be removed although sets fill themselves from it. */
const dropping = ref<{ name: string; sets: string[]; deed: () => Promise<unknown> }>()
/** Removed at once, with an undo; told beforehand where a set fills itself from it. */
function drop(term: 'family' | 'label' | 'tag', name: string, deed: () => Promise<{ entry: Entry }>) {
  const sets = library.sets.filter(({ terms }) => asks(terms, term, name)).map((set) => `“${set.name}”`)
  const go = async () => {
    await toast.recorded(deed)
    dropping.value = undefined
  }
  if (sets.length) dropping.value = { name, sets, deed: go }
  else void go()
}
const dropFamily = (one: Family) => drop('family', one.name, () => of(api.DELETE('/api/families/{id}', at(one.id))))
/** One place up or down among those beside it. */
const shift = (one: Family, step: number) =>
  doing(async () => {
    const beside = library.families.filter(({ parent_id }) => parent_id === one.parent_id)
    const from = beside.findIndex(({ id }) => id === one.id)
    const next = [...beside]
    next.splice(from + step, 0, next.splice(from, 1)[0]!)
    for (const [position, { id, name }] of next.entries())
      await of(api.PUT('/api/families/{id}', { ...at(id), body: { name, position } }))
  })
const addWorkState = () =>
  doing(async () => {
    await of(api.POST('/api/libraries/{library}/work-states', { ...library.path(), body: { name: fresh.label } }))
    fresh.label = ''
  })
const saveWorkState = () =>
  doing(async () => {
    const { id, name, colour, shape } = label.value!
    await of(api.PUT('/api/work-states/{id}', { ...at(id), body: { name, colour, shape } }))
    label.value = undefined
  })
const dropWorkState = (one: WorkState) =>
  drop('label', one.name, () => of(api.DELETE('/api/work-states/{id}', at(one.id))))
const edit = (one: Tag) => {
  tag.value = { ...one, words: one.synonyms.join(', ') }
  merging.value = undefined
}
const saveTag = () =>
  doing(async () => {
    const { id, name, colour, shape, words } = tag.value!
    await of(
      api.PUT('/api/tags/{id}', {
        ...at(id),
        body: {
          name,
          colour,
          shape,
          synonyms: words
            .split(',')
            .map((word) => word.trim())
            .filter(Boolean),
        },
      }),
    )
    tag.value = undefined
  })
const dropTag = (one: Tag) => drop('tag', one.name, () => of(api.DELETE('/api/tags/{id}', at(one.id))))
const merge = () =>
  toast.recorded(async () => {
    const done = await of(api.POST('/api/tags/{id}/merge', { ...at(tag.value!.id), body: { into: merging.value! } }))
    tag.value = undefined
    return done
  })
</script>

<template>
  <div class="page order" :inert="!session.mayEdit">
    <section aria-label="Families">
      <h1>Families</h1>
      <p class="soft">A small tree; each brush hangs at one place. Families order the Wall, so names need no tricks.</p>
      <div
        v-for="one in library.branches"
        :key="one.family.id"
        class="item"
        :style="{ paddingLeft: `${one.depth * 16}px` }"
      >
        <form v-if="family?.id === one.family.id" class="line" @submit.prevent="saveFamily">
          <el-input v-model="family.name" size="small" aria-label="Name of the family" maxlength="60" /><el-select
            v-model="family.parent_id"
            size="small"
            aria-label="Hangs below"
            ><el-option :value="null as never" label="at the top" /><el-option
              v-for="other in library.branches.filter(({ family: o }) => !one.ids.includes(o.id))"
              :key="other.family.id"
              :value="other.family.id"
              :label="`below ${other.family.name}`" /></el-select
          ><el-button size="small" native-type="submit">Save</el-button>
        </form>
        <template v-else
          ><b>{{ one.family.name }}</b
          ><span class="soft">{{ held(one.ids) }}</span
          ><span class="grow" /><button
            v-if="held(one.ids)"
            class="plain"
            :aria-label="`Export the family ${one.family.name}`"
            @click="exporting = one"
          >
            export</button
          ><button class="plain" :aria-label="`Move ${one.family.name} up`" @click="shift(one.family, -1)">↑</button
          ><button class="plain" :aria-label="`Move ${one.family.name} down`" @click="shift(one.family, 1)">↓</button
          ><button class="plain" @click="family = { ...one.family }">change</button
          ><button class="plain" :aria-label="`Remove the family ${one.family.name}`" @click="dropFamily(one.family)">
            ✕
          </button></template
        >
      </div>
      <form class="line add" @submit.prevent="addFamily">
        <el-input
          v-model="fresh.family"
          size="small"
          placeholder="Name of a new family"
          aria-label="Name of a new family"
          maxlength="60"
        /><el-select v-model="fresh.parent" size="small" aria-label="Where the new family hangs"
          ><el-option :value="0" label="at the top" /><el-option
            v-for="one in library.branches"
            :key="one.family.id"
            :value="one.family.id"
            :label="`below ${one.family.name}`" /></el-select
        ><el-button size="small" native-type="submit" :disabled="!fresh.family.trim()">Add</el-button>
      </form>
    </section>
    <FormDialog
      v-if="dropping"
      :title="`Remove “${dropping.name}”`"
      deed="Remove it"
      cancel="Keep it"
      width="440px"
      @submit="dropping.deed()"
      @close="dropping = undefined"
    >
      <p>
        {{ dropping.sets.join(', ') }} {{ dropping.sets.length === 1 ? 'fills itself' : 'fill themselves' }} from it,
        and would find none of its brushes any more. The brushes stay, and this can be undone.
      </p>
    </FormDialog>
    <ExportDialog
      v-if="exporting"
      :which="{ family: exporting.family.id }"
      :count="held(exporting.ids)"
      :title="exporting.family.name"
      @close="exporting = undefined"
    />
    <section aria-label="Work states">
      <h1>Work states</h1>
      <p class="soft">How far a brush has come, in the studio’s own words.</p>
      <div v-for="one in library.workStates" :key="one.id" class="item">
        <form v-if="label?.id === one.id" class="line" @submit.prevent="saveWorkState">
          <el-input v-model="label.name" size="small" aria-label="Name of the work state" maxlength="40" /><el-select
            v-model="label.colour"
            size="small"
            aria-label="Colour"
            ><el-option v-for="c in looks.colours" :key="c" :value="c" :label="c" /></el-select
          ><el-select v-model="label.shape" size="small" aria-label="Shape"
            ><el-option v-for="c in looks.shapes" :key="c" :value="c" :label="c" /></el-select
          ><el-button size="small" native-type="submit">Save</el-button>
        </form>
        <template v-else
          ><TagMark state :tag="one" /><span class="soft">{{ count('work_states', one.id) }}</span
          ><span class="grow" /><button class="plain" @click="label = { ...one }">change</button
          ><button class="plain" :aria-label="`Remove the work state ${one.name}`" @click="dropWorkState(one)">
            ✕
          </button></template
        >
      </div>
      <form class="line add" @submit.prevent="addWorkState">
        <el-input
          v-model="fresh.label"
          size="small"
          placeholder="Name of a new work state"
          aria-label="Name of a new work state"
          maxlength="40"
        /><el-button size="small" native-type="submit" :disabled="!fresh.label.trim()">Add</el-button>
      </form>
    </section>
    <section aria-label="Tags">
      <div class="line">
        <h1>Tags</h1>
        <span class="grow" /><el-checkbox v-model="unusedOnly" label="only unused" />
      </div>
      <p class="soft">As many as you like on each brush. Synonyms find the same tag.</p>
      <div v-for="one in tags" :key="one.id" class="item">
        <div v-if="tag?.id === one.id" class="edit">
          <form class="line" @submit.prevent="saveTag">
            <el-input v-model="tag.name" size="small" aria-label="Name of the tag" maxlength="60" /><el-select
              v-model="tag.colour"
              size="small"
              aria-label="Colour"
              ><el-option v-for="c in looks.colours" :key="c" :value="c" :label="c" /></el-select
            ><el-select v-model="tag.shape" size="small" aria-label="Shape"
              ><el-option v-for="c in looks.shapes" :key="c" :value="c" :label="c"
            /></el-select>
          </form>
          <form class="line" @submit.prevent="saveTag">
            <el-input
              v-model="tag.words"
              size="small"
              placeholder="Synonyms, apart by commas"
              aria-label="Synonyms"
            /><el-button size="small" native-type="submit">Save</el-button>
          </form>
          <form class="line" @submit.prevent="merge">
            <el-select
              v-model="merging"
              size="small"
              placeholder="Merge into another tag"
              aria-label="Merge into"
              filterable
              default-first-option
              ><el-option
                v-for="other in library.tags.filter(({ id }) => id !== one.id)"
                :key="other.id"
                :value="other.id"
                :label="other.name" /></el-select
            ><el-button size="small" native-type="submit" :disabled="!merging">Merge</el-button
            ><button type="button" class="plain" @click="tag = undefined">close</button>
          </form>
        </div>
        <template v-else
          ><TagMark :tag="one" /><span class="soft">{{ one.count }}</span
          ><span v-if="one.synonyms.length" class="soft small">also {{ one.synonyms.join(', ') }}</span
          ><span class="grow" /><button class="plain" :aria-label="`Change the tag ${one.name}`" @click="edit(one)">
            change</button
          ><button v-if="!one.count" class="plain" :aria-label="`Remove the tag ${one.name}`" @click="dropTag(one)">
            ✕
          </button></template
        >
      </div>
      <p v-if="!tags.length" class="soft">
        {{ unusedOnly ? 'No tag is unused.' : 'No tags yet. Pick brushes on the Wall, then choose Tag in the tray.' }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.order {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 32px;
  align-content: start;
}
p {
  margin: 2px 0 8px;
}
.item {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  border-top: 1px solid var(--line);
}
.item form,
.edit {
  flex: 1;
}
.edit {
  display: grid;
  gap: 4px;
  padding: 4px 0;
}
.add {
  margin-top: 10px;
}
.el-select {
  width: 120px;
  flex: none;
}
</style>
