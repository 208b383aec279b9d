<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type Import, type ImportItem, type ImportPlan } from '../../api/client'
import type { components } from '../../api/schema'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useWork } from '../../stores/work'
import { words } from '../../stores/words'
import ImportReport from './ImportReport.vue'
import ItemsOfState from './ItemsOfState.vue'
import WhereToPut from './WhereToPut.vue'

/** The plan of one import: what each thing in it would become, what can be decided, and the report. */
const props = defineProps<{ incoming: Import }>()
const emit = defineEmits<{
  /** Something about it has changed; it is gone when it was discarded. */ changed: [gone?: boolean]
}>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const work = useWork()
const router = useRouter()
type Choices = components['schemas']['ImportChoices']
const plan = ref<ImportPlan>()
const busy = ref(false)
const at = { params: { path: { id: props.incoming.id } } }

async function load() {
  await toast.attempt(async () => {
    plan.value = await of(api.GET('/api/imports/{id}', at))
  })
}
onMounted(load)
// What is here may have changed since: the plan is made anew.
watch(() => [props.incoming.state, library.stamp], load)
const task = computed(
  () =>
    work.open.find((task) => task.import === props.incoming.id) ??
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
const coming = computed(() => plan.value?.items.filter(({ decision }) => decision !== 'leave').length ?? 0)
const here = computed(() => plan.value?.items.filter(({ state }) => state === 'identical').length ?? 0)
const decide = (choices: Choices) =>
  toast.attempt(async () => {
    plan.value = await of(api.PUT('/api/imports/{id}', { ...at, body: choices }))
  })
const forItem = (item: ImportItem, decision: string) =>
  decide({ items: { ...(plan.value!.choices.items as Record<string, string> | undefined), [item.id]: decision } })
function forAll(state: string, items: ImportItem[], decision: string) {
  const single = { ...(plan.value!.choices.items as Record<string, string> | undefined) }
  for (const { id } of items) delete single[id]
  decide({
    items: single,
    all: { ...(plan.value!.choices.all as Record<string, string> | undefined), [state]: decision },
  })
}
const forWay = (group: string, way: string) =>
  decide({ ways: { ...(plan.value!.choices.ways as Record<string, string> | undefined), [group]: way } })
async function apply() {
  busy.value = true
  await toast.attempt(async () => {
    const begun = await of(api.POST('/api/imports/{id}/apply', { ...at, body: { stamp: plan.value!.stamp } }))
    emit('changed')
    if (begun.task) await work.follow(begun.task)
    emit('changed')
  })
  await load()
  busy.value = false
}
const letGo = () =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/imports/{id}', at))
    emit('changed', true)
    toast.done(`“${props.incoming.name}” discarded. The library is unchanged.`)
  })
const brings = computed(() => {
  const said = plan.value?.backup
  if (!said) return ''
  const counts: [number, string][] = [
    [said.versions, 'earlier version'],
    [said.categories, 'category'],
    [said.statuses, 'status'],
    [said.bundles, 'bundle'],
    [said.releases, 'release'],
    [said.plans, 'start-up plan'],
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
    !!plan.value?.export_templates.length ||
    ((plan.value?.where.sets ?? true) !== false &&
      !!plan.value?.sets.some((name) => !library.sets.some((set) => set.name.toLowerCase() === name.toLowerCase()))),
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
            ? `${coming} to import, ${here} already here`
            : 'nothing to import: everything is here already or skipped'
        }}</span>
        <button class="plain" @click="letGo">Discard</button>
        <span v-if="takes && plan.seconds > LONG" class="soft small"
          >takes about
          {{ plan.seconds < 90 ? `${plan.seconds} seconds` : `${Math.round(plan.seconds / 60)} minutes` }}</span
        >
        <el-button type="primary" :loading="busy" :disabled="!takes" @click="apply"
          >Import into {{ session.library?.name }}</el-button
        >
      </template>
      <template v-else-if="plan.state === 'applied'">
        <button v-if="plan.entry?.undoable" class="plain" @click="toast.undo(plan.entry!).then(load)">
          Undo import
        </button>
        <el-button @click="router.push({ name: 'brushes' })">Show in Brushes</el-button>
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
      <p class="soft">You can leave this page; the import continues.</p>
    </div>
    <p v-else-if="plan.state === 'open'" class="soft">
      This import is incomplete: some files weren’t sent or couldn’t be read.
      <button class="plain" @click="letGo">Discard</button> and import them again.
    </p>

    <template v-if="plan.state === 'planned'">
      <p v-if="plan.words.description" class="soft words">{{ plan.words.description }}</p>
      <p v-if="plan.backup" class="words">
        A library backup. Besides its brushes it adds: {{ brings || 'nothing else' }}.
      </p>
      <div v-for="group in plan.groups" :key="group.group" class="line way">
        <b>{{ group.group }}</b><span class="soft">{{ group.count }} pictures</span>
        <el-radio-group
          :model-value="group.way"
          :aria-label="`How to import ${group.group}`"
          @update:model-value="forWay(group.group, String($event))"
          ><el-radio value="reel">One brush, each picture a frame of its reel</el-radio
          ><el-radio value="each">A brush each</el-radio></el-radio-group
        >
      </div>
      <WhereToPut v-if="coming" :plan="plan" @place="decide({ where: $event })" />
      <ItemsOfState
        v-for="{ state, title, items } in groups"
        :key="state"
        :incoming="plan.id"
        :state="state"
        :title="title"
        :items="items"
        @all="forAll(state, items, $event)"
        @one="forItem"
      />
      <p v-if="!plan.items.length" class="soft">It contains nothing Fobrel can read.</p>
    </template>

    <ImportReport v-else-if="plan.state === 'applied'" :plan="plan" />
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
</style>
