<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElMessageBox } from 'element-plus'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import { useLibrary } from '../../stores/library'
import { save } from '../../parts/save'
import { moment } from '../../parts/when'
import AllDesks from './AllDesks.vue'
import EarlierPlans from './EarlierPlans.vue'
import EffectsDialog from './EffectsDialog.vue'
import InFolder from './InFolder.vue'
import LastStart from './LastStart.vue'
import LoadMeter from './LoadMeter.vue'
import PlanAdd from './PlanAdd.vue'
import PlanPart from './PlanPart.vue'
import PlanBrushes from './PlanBrushes.vue'
import ReservedKeys from './ReservedKeys.vue'
import DeskDialog from './DeskDialog.vue'
import DeskList from './DeskList.vue'
import { sitDown } from './useDesk'
import OwnWord from '../../parts/OwnWord.vue'

/** Start-up plans: what loads at every desk's start, what is at hand, on which keys; and what really lies there. */
const route = useRoute()
const router = useRouter()
const chosen = computed(() => {
  if (route.query.desk) return Number(route.query.desk)
  const all = useLibrary().desks
  return (all.find(({ template, state }) => !template && state !== 'out of use') ?? all[0])?.id
})
const place = sitDown(() => chosen.value)
const { desk, busy, missing, fixed, asked, library, session, toast, at, doing, revert, lines } = place
const about = ref(false)
/** Whether the library's brushes stand beside the plan. */
const beside = ref(false)
const reserved = ref<Record<string, string>>()
const BELOW = { all: 'All desks', folder: 'On disk', start: 'Last start', plans: 'Previous plans' }
const below = computed({
  get: () => (Object.keys(BELOW) as (keyof typeof BELOW)[]).find((name) => name === route.query.show) ?? 'all',
  set: (show) => void router.push({ query: { ...route.query, show: show === 'all' ? undefined : show } }),
})
const open = computed(() => desk.value?.found.filter(({ left, kind }) => !left && kind !== 'aside').length ?? 0)
const own = computed(() => lines.value.filter((one) => one.change).length + (desk.value?.out.length ?? 0))
const why = ref('')
const asking = ref(false)
const send = async () => {
  asking.value = false
  const well = await doing(
    'send',
    () => of(api.POST('/api/desks/{id}/send', { ...at(), body: { why: why.value } })),
    (got) => `Sent to ${got.name}${got.away ? '; its agent fetches it.' : `, into ${got.path}.`}`,
  )
  if (well) why.value = ''
}
const restart = () =>
  doing(
    'restart',
    () => of(api.POST('/api/desks/{id}/restart', at())),
    ({ name, report }) => {
      below.value = 'start'
      const failed = report!.failed ? `, ${report!.failed} failed` : ''
      return `${name} started: ${report!.loaded.length - report!.failed} brushes loaded${failed}.`
    },
  )
const card = () =>
  toast.attempt(async () => {
    const answer = await api.GET('/api/desks/{id}/card.pdf', { ...at(), parseAs: 'blob' })
    const file = save((await of(Promise.resolve(answer))) as unknown as Blob, answer.response)
    toast.done(`${file} was downloaded.`)
  })
const aside = () =>
  doing('aside', () => of(api.PUT('/api/desks/{id}', { ...at(), body: { aside: desk.value!.state !== 'out of use' } })))
async function remove() {
  const one = desk.value!
  const words = { confirmButtonText: 'Delete', cancelButtonText: 'Keep' }
  const text = one.template
    ? 'Desks based on it keep their plans.'
    : `Its plans are deleted permanently. Files in ${one.path} stay.`
  if (!(await ElMessageBox.confirm(text, `Remove “${one.name}”?`, words).catch(() => false))) return
  await toast.attempt(async () => {
    const { entry } = await of(api.DELETE('/api/desks/{id}', at()))
    await router.push({ query: {} })
    await library.load()
    toast.done(entry.summary)
  })
}
const menu = (what: string) => {
  if (what === 'history') void router.push({ name: 'history', query: { desk: desk.value!.id } })
  if (what === 'about') about.value = true
  if (what === 'card') void card()
  if (what === 'aside') void aside()
  if (what === 'remove') void remove()
  if (what === 'keys')
    void toast.attempt(
      async () =>
        (reserved.value = (await of(api.GET('/api/libraries/{library}/desk-table', library.path()))).reserved_keys),
    )
}
const tone: Record<string, string> = {
  'out of date': 'changed',
  'changed on the desk': 'missing',
  unreachable: 'missing',
  current: 'good',
}
const said = computed(() => {
  const one = desk.value!
  if (one.state !== 'unreachable') return one.said
  return one.seen_at ? `since ${moment(one.seen_at)}` : 'its agent has never connected'
})
</script>

<template>
  <div class="desks">
    <DeskList :chosen="chosen" />
    <section v-if="desk" class="desk">
      <header class="line head">
        <h1>{{ desk.name }}</h1>
        <span v-if="desk.template" class="soft"
          >a template{{ desk.below.length ? ` of ${desk.below.join(', ')}` : '' }}</span
        >
        <span
          v-if="desk.above.length"
          class="soft"
          :title="desk.above.map(({ name }) => name).join(', which is based on ')"
          >based on {{ desk.above[0]!.name
          }}{{ own ? `, ${own} ${own === 1 ? 'difference' : 'differences'}` : '' }}</span
        >
        <span v-if="!desk.template" :class="tone[desk.state] ?? 'soft'"
          >{{ desk.state }}{{ said ? `: ${said}` : '' }}</span
        >
        <span class="grow" />
        <el-dropdown trigger="click" @command="menu">
          <el-button size="small">More ▾</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item v-if="!fixed" command="about">Properties…</el-dropdown-item>
              <el-dropdown-item command="history">History</el-dropdown-item>
              <el-dropdown-item v-if="!desk.template" command="card">Key card (PDF)</el-dropdown-item>
              <el-dropdown-item v-if="!fixed" command="keys">Reserved shortcuts…</el-dropdown-item>
              <el-dropdown-item v-if="!fixed && !desk.template" command="aside">{{
                desk.state === 'out of use' ? 'Return to use' : 'Take out of use'
              }}</el-dropdown-item>
              <el-dropdown-item v-if="!fixed" command="remove">Remove…</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
        <template v-if="!desk.template">
          <el-button
            v-if="session.mayEdit"
            size="small"
            :disabled="!desk.sent_at || !!busy || desk.away"
            :loading="busy === 'restart'"
            @click="restart"
            >Restart desk</el-button
          >
          <el-button
            v-if="!fixed"
            size="small"
            type="primary"
            :disabled="!lines.length || !!busy || desk.state === 'out of use'"
            :loading="busy === 'send'"
            @click="asking = true"
            >Send to desk…</el-button
          >
        </template>
      </header>
      <div class="plan" :class="{ beside }">
        <section aria-label="Startup">
          <div class="line">
            <h2>Startup</h2>
            <span class="soft small">loaded at every start, in this order</span><span class="grow" /><template
              v-if="!fixed"
              ><button class="plain small" :aria-pressed="beside" @click="beside = !beside">Browse brushes</button
              ><PlanAdd part="startup"
            /></template>
          </div>
          <PlanPart part="startup" empty="Nothing loads at start yet. Add brushes, sets or bundles." />
          <p v-for="one in desk.out" :key="one.thing" class="small soft out">
            {{ one.title }} is taken out here
            <button v-if="!fixed" class="plain small" @click="revert(one.thing)">Restore</button>
          </p>
        </section>
        <PlanBrushes v-if="beside" @close="beside = false" />
        <aside>
          <section aria-label="Shelf">
            <div class="line">
              <h2><OwnWord word="shelf">Shelf</OwnWord></h2>
              <span class="soft small">available, not loaded at start</span><span class="grow" /><PlanAdd
                v-if="!fixed"
                part="shelf"
              />
            </div>
            <PlanPart part="shelf" empty="Empty. Drag brushes here, or add them." />
          </section>
          <LoadMeter />
        </aside>
      </div>
      <div v-if="!desk.template" class="line below" role="group" aria-label="More about this desk">
        <button
          v-for="(title, key) in BELOW"
          :key="key"
          class="plain"
          :class="{ on: below === key }"
          :aria-pressed="below === key"
          @click="below = key"
        >
          {{ title }}{{ key === 'folder' && open ? ` (${open})` : key === 'plans' ? ` (${desk.plans.length})` : '' }}
        </button>
      </div>
      <div class="under">
        <AllDesks v-if="below === 'all' || desk.template" />
        <InFolder v-else-if="below === 'folder'" />
        <LastStart v-else-if="below === 'start'" />
        <EarlierPlans v-else />
      </div>
      <FormDialog
        v-if="asking"
        :title="`Send the plan to ${desk.name}`"
        deed="Send"
        @submit="send"
        @close="asking = false"
      >
        <p class="soft">
          {{ desk.away ? 'Its agent will pick it up.' : `It’s written to ${desk.path}.` }} Altered files are moved to
          “aside”; personal brushes stay.
        </p>
        <p v-for="one in desk.clashes" :key="one.why" class="missing">{{ one.why }}</p>
        <label>Why (optional)<el-input v-model="why" maxlength="300" /></label>
      </FormDialog>
      <DeskDialog v-if="about" @close="about = false" />
      <ReservedKeys v-if="reserved" :keys="reserved" @close="reserved = undefined" />
      <EffectsDialog v-if="asked" :name="desk.name" :effects="asked.effects" @go="asked.go()" @leave="asked.leave()" />
    </section>
    <div v-else-if="missing" class="empty" role="alert">
      <p>This desk doesn’t exist in {{ session.library?.name }}.</p>
    </div>
    <div v-else-if="library.loaded && !library.desks.length" class="empty">
      <p>No desks yet. {{ fixed ? 'A lead adds them.' : 'Add one at the left.' }}</p>
    </div>
  </div>
</template>

<style scoped>
.desks {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  height: 100%;
  overflow: hidden;
}
.desk {
  overflow: auto;
  padding-bottom: 20px;
}
.head {
  position: sticky;
  top: 0;
  z-index: 2;
  padding: 10px 18px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
  flex-wrap: wrap;
}
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(280px, 1fr);
  min-height: 200px;
}
.plan.beside {
  grid-template-columns: minmax(0, 1.6fr) 220px minmax(240px, 1fr);
}
.plan > * {
  padding: 10px 12px;
  min-width: 0;
}
.plan > aside {
  border-left: 1px solid var(--line);
  display: grid;
  gap: 14px;
  align-content: start;
}
.below {
  padding: 6px 18px;
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  gap: 18px;
}
.below .on {
  color: var(--ink);
  font-weight: 700;
}
.under {
  padding: 10px 18px;
}
.good {
  color: var(--accent);
}
.out {
  padding: 0 8px;
}
</style>
