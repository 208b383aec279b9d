<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type Arrival, type ArrivalItem, type ArrivalPlan } from '../../api/client'
import type { components } from '../../api/schema'
import OneScale from '../../parts/OneScale.vue'
import Strip from '../../parts/Strip.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useWork } from '../../stores/work'
import { titled, words } from '../../stores/words'

/** The plan of one arrival: what each thing in it would become, what can be decided, and the report. */
const props = defineProps<{ arrival: Arrival }>()
const emit = defineEmits<{
  /** Something about it has changed; it is gone when it was let go. */ changed: [gone?: boolean]
}>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const work = useWork()
const router = useRouter()
type Choices = components['schemas']['ArrivalChoices']
type Line = {
  name: string
  state: ArrivalItem['state']
  decision: ArrivalItem['decision']
  becomes: string
  sentence: string
  preset: number | null
}
const plan = ref<ArrivalPlan>()
const busy = ref(false)
const where = reactive({
  set: '',
  place: 'end',
  mode: 'add' as 'add' | 'replace',
  family: undefined as number | undefined,
  tags: [] as string[],
  sets: true,
  bundle: false,
})
const at = { params: { path: { id: props.arrival.id } } }
const MOST = 400

async function load() {
  await toast.attempt(async () => {
    plan.value = await of(api.GET('/api/arrivals/{id}', at))
    Object.assign(
      where,
      { set: '', place: 'end', mode: 'add', family: undefined, tags: [], sets: true, bundle: false },
      plan.value.where,
    )
  })
}
onMounted(load)
// What is here may have changed since: the plan is made anew.
watch(() => [props.arrival.state, library.stamp], load)
const task = computed(
  () =>
    work.open.find(({ arrival }) => arrival === props.arrival.id) ??
    (plan.value?.state === 'reading' || plan.value?.state === 'applying' ? plan.value.task : undefined),
)

const groups = computed(() =>
  words.value.plan.states
    .map(({ name: state, title }) => ({
      state,
      title,
      items: plan.value?.items.filter((item) => item.state === state) ?? [],
    }))
    .filter(({ items }) => items.length),
)
const called = (decision: string) => titled(words.value.plan.decisions, decision)
const coming = computed(() => plan.value?.items.filter(({ decision }) => decision !== 'leave').length ?? 0)
const here = computed(() => plan.value?.items.filter(({ state }) => state === 'identical').length ?? 0)
const open = ref<Record<string, boolean>>({})
const target = computed(() =>
  library.sets.find(({ name, query }) => query === null && name.toLowerCase() === where.set.trim().toLowerCase()),
)
const places = computed(() => (target.value?.preset_ids ?? []).flatMap((id) => library.byId.get(id) ?? []))
watch(target, (set) => set && library.need(set.preset_ids))

const decide = (choices: Choices) =>
  toast.attempt(async () => {
    plan.value = await of(api.PUT('/api/arrivals/{id}', { ...at, body: choices }))
  })
const forItem = (item: ArrivalItem, decision: string) =>
  decide({ items: { ...(plan.value!.choices.items as Record<string, string> | undefined), [item.id]: decision } })
function forAll(state: string, items: ArrivalItem[], decision: string) {
  const single = { ...(plan.value!.choices.items as Record<string, string> | undefined) }
  for (const { id } of items) delete single[id]
  decide({
    items: single,
    all: { ...(plan.value!.choices.all as Record<string, string> | undefined), [state]: decision },
  })
}
/** What all of one kind are decided to be, if they agree. */
const agreed = (items: ArrivalItem[]) =>
  items.every(({ decision }) => decision === items[0]!.decision) ? items[0]!.decision : ''
/** What every one of them can be. */
const common = (items: ArrivalItem[]) =>
  items[0]!.choices.filter((one) => items.every(({ choices }) => choices.includes(one)))
const forWay = (group: string, way: string) =>
  decide({ ways: { ...(plan.value!.choices.ways as Record<string, string> | undefined), [group]: way } })
const place = () => decide({ where: { ...where, set: where.set.trim(), family: where.family ?? null } })

async function apply() {
  busy.value = true
  await toast.attempt(async () => {
    const begun = await of(api.POST('/api/arrivals/{id}/apply', { ...at, body: { stamp: plan.value!.stamp } }))
    emit('changed')
    if (begun.task) await work.follow(begun.task)
    emit('changed')
  })
  await load()
  busy.value = false
}
const letGo = () =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/arrivals/{id}', at))
    emit('changed', true)
    toast.done(`“${props.arrival.name}” was let go. Nothing in the library was changed.`)
  })
const suggest = (text: string, give: (found: { value: string }[]) => void) =>
  give(
    library.sets
      .filter(({ name, query }) => query === null && name.toLowerCase().includes(text.toLowerCase()))
      .map(({ name }) => ({ value: name })),
  )
const brings = computed(() => {
  const said = plan.value?.backup
  if (!said) return ''
  const counts: [number, string][] = [
    [said.editions, 'earlier edition'],
    [said.families, 'family'],
    [said.labels, 'label'],
    [said.bundles, 'bundle'],
    [said.releases, 'release'],
    [said.plans, 'start plan'],
  ]
  return counts
    .filter(([count]) => count)
    .map(([count, word]) => `${count} ${count === 1 ? word : word.replace(/y$/, 'ie') + 's'}`)
    .join(', ')
})
/** Whether there is anything to take in: brushes, or what comes beside them and is not here yet. */
const takes = computed(
  () =>
    coming.value > 0 ||
    brings.value !== '' ||
    !!plan.value?.recipes.length ||
    (where.sets &&
      !!plan.value?.sets.some((name) => !library.sets.some((set) => set.name.toLowerCase() === name.toLowerCase()))),
)
const notes = computed(() => (plan.value?.report as { notes?: string[] } | null)?.notes ?? [])
const lines = computed(() => (plan.value?.report as { lines?: Line[] } | null)?.lines ?? [])
const told = computed(() =>
  words.value.plan.decisions
    .map(({ name: decision, title }) => ({
      decision,
      title,
      list: lines.value.filter((line) => line.decision === decision),
    }))
    .filter(({ list }) => list.length),
)
/** What takes longer than this is told before, seconds. */
const LONG = 5
</script>

<template>
  <section v-if="plan" class="plan">
    <div class="line head">
      <h1>{{ plan.words.name || plan.name }}</h1>
      <span class="soft">{{
        [
          plan.words.name && plan.words.version,
          plan.words.author && `by ${plan.words.author}`,
          plan.words.licence,
          `from ${plan.source === 'dropped' ? plan.by : plan.source}`,
        ]
          .filter(Boolean)
          .join(', ')
      }}</span>
      <span class="grow" />
      <template v-if="plan.state === 'planned'">
        <span role="status">{{
          takes
            ? `${coming} to take in, ${here} already here`
            : 'nothing to take in: all of it is here already, or left out'
        }}</span>
        <button class="plain" @click="letGo">Let it go</button>
        <span v-if="takes && plan.seconds > LONG" class="soft small"
          >takes about
          {{ plan.seconds < 90 ? `${plan.seconds} seconds` : `${Math.round(plan.seconds / 60)} minutes` }}</span
        >
        <el-button type="primary" :loading="busy" :disabled="!takes" @click="apply"
          >Take into {{ session.library?.name }}</el-button
        >
      </template>
      <template v-else-if="plan.state === 'applied'">
        <button v-if="plan.entry?.undoable" class="plain" @click="toast.undo(plan.entry!).then(load)">
          Take it all back
        </button>
        <el-button @click="router.push({ name: 'wall' })">See the Wall</el-button>
      </template>
    </div>
    <div v-if="task" class="working" role="status">
      <p>
        {{ task.message
        }}{{
          task.before
            ? `; it waits, ${task.before} ${task.before === 1 ? 'piece of work is' : 'pieces of work are'} before it`
            : ''
        }}
      </p>
      <el-progress :percentage="work.part(task)" />
      <p class="soft">You can leave this page; it goes on.</p>
    </div>
    <p v-else-if="plan.state === 'open'" class="soft">
      This arrival did not come whole: its files were not all sent, or could not be read.
      <button class="plain" @click="letGo">Let it go</button> and bring them again.
    </p>

    <template v-if="plan.state === 'planned'">
      <p v-if="plan.words.description" class="soft words">{{ plan.words.description }}</p>
      <p v-if="plan.backup" class="words">
        A backup of a whole library. Beside its brushes it brings what is not here yet of:
        {{ brings || 'nothing else' }}.
      </p>
      <div v-for="group in plan.groups" :key="group.group" class="line way">
        <b>{{ group.group }}</b><span class="soft">{{ group.count }} pictures</span>
        <el-radio-group
          :model-value="group.way"
          :aria-label="`How to take ${group.group}`"
          @update:model-value="forWay(group.group, String($event))"
          ><el-radio value="reel">one brush, each picture a frame of its reel</el-radio
          ><el-radio value="each">a brush each</el-radio></el-radio-group
        >
      </div>
      <form v-if="coming" class="where" aria-label="Where to put them" @submit.prevent>
        <span class="soft">Put them</span>
        <label
          >in the set<el-autocomplete
            v-model="where.set"
            :fetch-suggestions="suggest"
            size="small"
            clearable
            placeholder="none"
            aria-label="In the set"
            maxlength="100"
            @change="place"
            @select="place"
            @clear="place"
        /></label>
        <label v-if="target"
          >where<el-select v-model="where.mode" size="small" aria-label="Add or take its place" @change="place"
            ><el-option value="add" label="added to what it holds" /><el-option
              value="replace"
              label="in place of what it holds" /></el-select
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
        <label v-if="library.families.length"
          >in the family<el-select
            v-model="where.family"
            size="small"
            clearable
            placeholder="none"
            aria-label="In the family"
            @change="place"
            ><el-option v-for="one in library.families" :key="one.id" :value="one.id" :label="one.name" /></el-select
        ></label>
        <label
          >with the tags<el-select
            v-model="where.tags"
            size="small"
            multiple
            filterable
            allow-create
            default-first-option
            collapse-tags
            placeholder="none"
            aria-label="With the tags"
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
          >what it holds now leaves the set; what nothing else uses goes to the Attic</span
        >
      </form>
      <section v-for="{ state, title, items } in groups" :key="state" class="kind" :aria-label="title">
        <div class="line title">
          <h2>{{ title }}</h2>
          <span class="soft">{{ items.length }}</span>
          <label v-if="items.length > 1 && common(items).length > 1" class="line all"
            ><span class="soft">all of these:</span
            ><select
              :value="agreed(items)"
              :aria-label="`All: ${title}`"
              @change="forAll(state, items, ($event.target as HTMLSelectElement).value)"
            >
              <option v-if="!agreed(items)" value="" disabled>as below</option>
              <option v-for="one in common(items)" :key="one" :value="one">{{ called(one) }}</option>
            </select></label
          >
        </div>
        <div
          v-if="items.some(({ here }) => here) && state !== 'identical'"
          class="item heads soft small"
          :class="state"
        >
          <span>as it came</span><span>as it is here</span>
        </div>
        <OneScale v-for="item in open[state] ? items : items.slice(0, MOST)" :key="item.id"
          ><div class="item" :class="[state, { left: item.decision === 'leave' }]">
            <Strip
              v-if="item.fingerprint && state !== 'lacking'"
              :greatest="item.here?.greatest?.[0]"
              :src="`/api/arrivals/${plan.id}/strips/${item.id}.png`"
              :label="`${item.name}, as it came`"
              lazy
            /><span v-else />
            <Strip
              v-if="item.here && state !== 'identical'"
              :fingerprint="item.here.fingerprint"
              :greatest="item.here.greatest?.[1]"
              :label="`${item.here.name}, as it is here`"
              lazy
            /><span v-else class="soft small gap" />
            <div class="said">
              <b>{{ item.decision === 'leave' ? item.name : item.becomes }}</b>
              <span v-if="item.size" class="soft small">{{ item.size }} px</span>
              <div class="soft small">
                {{
                  item.sentence ||
                  [
                    item.decision !== 'leave' && item.becomes !== item.name && `came as “${item.name}”`,
                    item.here && state !== 'identical' && `here: “${item.here.name}”, edition ${item.here.edition}`,
                    item.here && state === 'identical' && item.here.name !== item.name && `here as “${item.here.name}”`,
                    item.twin && 'comes twice in this arrival',
                    item.unknown.length && `kept, but not known to this version: ${item.unknown.join(', ')}`,
                  ]
                    .filter(Boolean)
                    .join('; ')
                }}
              </div>
            </div>
            <select
              v-if="item.choices.length > 1"
              :value="item.decision"
              :aria-label="`What to do with ${item.name}`"
              @change="forItem(item, ($event.target as HTMLSelectElement).value)"
            >
              <option v-for="one in item.choices" :key="one" :value="one">{{ called(one) }}</option>
            </select>
            <span v-else class="soft small">{{ state === 'identical' ? 'skipped' : called(item.decision) }}</span>
          </div></OneScale
        >
        <button v-if="items.length > MOST && !open[state]" class="plain" @click="open[state] = true">
          show all {{ items.length }}
        </button>
      </section>
      <p v-if="!plan.items.length" class="soft">There is nothing in it that we know.</p>
    </template>

    <template v-else-if="plan.state === 'applied'">
      <p>
        {{ plan.entry?.summary ?? 'Everything in it was here already. Nothing was added.'
        }}<span v-if="plan.entry?.undone" class="changed">taken back</span>
      </p>
      <p v-for="note in notes" :key="note" class="changed">{{ note }}</p>
      <section v-for="{ decision, title, list } in told" :key="decision" class="kind" :aria-label="title">
        <div class="line title">
          <h2>{{ title }}</h2>
          <span class="soft">{{ list.length }}</span>
        </div>
        <div v-for="(line, index) in list.slice(0, MOST)" :key="index" class="line report">
          <router-link v-if="line.preset" :to="{ name: 'bench', params: { id: line.preset } }">{{
            line.becomes
          }}</router-link><b v-else>{{ line.becomes }}</b
          ><span v-if="line.becomes !== line.name" class="soft">came as “{{ line.name }}”</span
          ><span class="soft">{{ line.sentence || titled(words.plan.states, line.state).toLowerCase() }}</span>
        </div>
      </section>
    </template>
  </section>
</template>

<style scoped>
.head {
  margin-bottom: 8px;
  white-space: nowrap;
}
.head h1,
.head h1 + .soft {
  overflow: hidden;
  text-overflow: ellipsis;
}
.head h1 {
  flex: 0 1 auto;
}
.head h1 + .soft {
  flex: 0 2 auto;
  min-width: 60px;
}
.words {
  margin: 0 0 8px;
  white-space: pre-line;
}
.working {
  max-width: 420px;
  padding: 24px 0;
}
.way {
  flex-wrap: wrap;
  padding: 4px 0;
}
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
.kind {
  margin-bottom: 14px;
}
.title {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.all {
  margin-left: auto;
}
.item {
  display: grid;
  grid-template-columns: 220px 220px minmax(140px, 1fr) 178px;
  gap: 14px;
  align-items: center;
  padding: 4px 0;
}
.new .gap,
.identical .gap {
  display: none;
}
.item.new,
.item.identical {
  grid-template-columns: 220px minmax(140px, 1fr) 178px;
}
.item.unreadable,
.item.future,
.item.lacking,
.item.aside {
  grid-template-columns: minmax(140px, 1fr) 178px;
}
.unreadable > span:empty,
.future > span:empty,
.lacking > span:empty,
.aside > span:empty {
  display: none;
}
.heads {
  padding: 3px 0 0;
}
.item.left .strip:first-child {
  opacity: 0.5;
}
.said {
  overflow-wrap: anywhere;
}
select {
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  padding: 3px 6px;
  width: 100%;
}
.all select {
  width: 178px;
}
.report {
  padding: 2px 0;
}
.report a {
  font-weight: 700;
  color: var(--ink);
}
.report b,
.report a {
  flex: 0 0 220px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
