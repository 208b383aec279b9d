<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { turns } from '../../parts/newest'
import Talk from '../../parts/talk/Talk.vue'
import { day, moment } from '../../parts/when'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import ProposedBrush from './ProposedBrush.vue'

/** What is proposed to this library: a lead decides brush by brush, whoever proposed sees what became of it. */
type Line = components['schemas']['Proposal']
type Detail = components['schemas']['ProposalDetail']
const library = useLibrary()
const session = useSession()
const toast = useToast()
const route = useRoute()
const router = useRouter()
const proposals = ref<Line[]>()
const shown = ref<Detail>()
const sample = ref('')
const strokes = ref<{ name: string; title: string }[]>([])
const chosen = computed(
  () => Number(route.query.proposal) || proposals.value?.find(({ state }) => state === 'open')?.id,
)
const STATES = { open: 'to decide', answered: 'answered', withdrawn: 'withdrawn' }

const turn = turns()
async function load() {
  const mine = turn()
  const listed = await of(api.GET('/api/libraries/{library}/proposals', library.path()))
  if (!mine()) return
  proposals.value = listed.proposals
  const id = chosen.value
  const got = id ? await of(api.GET('/api/proposals/{id}', { params: { path: { id } } })) : undefined
  if (mine()) shown.value = got
}
const reload = () => toast.attempt(load)
onMounted(async () => {
  await reload()
  await toast.attempt(async () => {
    strokes.value = (await of(api.GET('/api/sample-strokes'))).sample_strokes
  })
})
watch(() => [route.query.proposal, library.stamp], reload)

const leads = computed(() => session.library?.role === 'lead')
const choose = (id: number) => router.push({ query: { proposal: id } })
const withdraw = () =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/proposals/{id}', { params: { path: { id: shown.value!.id } } }))
    await load()
    toast.done('Proposal withdrawn. Your brushes are unchanged.')
  })
const what = (one: Line) => `${one.names.join(', ')}${one.count > one.names.length ? ` and ${one.count - 3} more` : ''}`
</script>

<template>
  <div class="proposals">
    <aside aria-label="Proposals">
      <h1>Proposals</h1>
      <p v-if="proposals && !proposals.length" class="soft">
        No proposals. To propose brushes, select them, then choose More › Propose.
      </p>
      <button
        v-for="one in proposals"
        :key="one.id"
        class="one"
        :class="{ here: one.id === shown?.id }"
        :aria-current="one.id === shown?.id"
        @click="choose(one.id)"
      >
        <b>{{ what(one) }}</b><span class="soft small">{{ one.by }}, {{ day(one.at) }} · {{ STATES[one.state] }}</span>
      </button>
    </aside>
    <section v-if="shown" class="page">
      <div class="line">
        <h1>{{ shown.by }} proposes {{ shown.count === 1 ? 'a brush' : `${shown.count} brushes` }}</h1>
        <span class="soft">{{ moment(shown.at) }} · {{ STATES[shown.state] }}</span
        ><span class="grow" />
        <label class="line soft small"
          >Along
          <el-select
            v-model="sample"
            aria-label="Sample stroke"
            size="small"
            class="inline-select"
            :empty-values="[undefined]"
          >
            <el-option value="" label="The strip" />
            <el-option v-for="one in strokes" :key="one.name" :value="one.name" :label="one.title" /> </el-select
        ></label>
        <el-button v-if="shown.by_id === session.person?.id && shown.state === 'open'" @click="withdraw"
          >Withdraw</el-button
        >
      </div>
      <p v-if="shown.sentence" class="why">{{ shown.sentence }}</p>
      <ProposedBrush
        v-for="one in shown.items"
        :key="one.id"
        :proposal="shown"
        :item="one"
        :sample="sample"
        :leads="leads"
        @decided="reload"
      />
      <h2>Comments</h2>
      <div class="said"><Talk :id="shown.id" about="proposal" /></div>
    </section>
    <section v-else-if="proposals?.length" class="empty"><p>All decided. Choose a proposal at the left.</p></section>
  </div>
</template>

<style scoped>
.proposals {
  display: grid;
  grid-template-columns: 260px minmax(0, 1fr);
  height: 100%;
}
aside {
  padding: 18px 14px;
  border-right: 1px solid var(--line);
  overflow: auto;
}
aside h1 {
  margin: 0 6px 10px;
}
.one {
  display: grid;
  width: 100%;
  padding: 6px;
  text-align: left;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-radius: 7px;
  cursor: pointer;
}
.one.here {
  background: var(--accent-wash);
}
.page {
  overflow: auto;
}
.why {
  max-width: 70ch;
  font-size: 15px;
  white-space: pre-line;
}
.said {
  max-width: 560px;
}
h2 {
  margin: 22px 0 6px;
}
@media (max-width: 820px) {
  .proposals {
    grid-template-columns: minmax(0, 1fr);
    overflow: auto;
  }
  aside {
    border-right: 0;
  }
  .page {
    overflow: visible;
  }
}
</style>
