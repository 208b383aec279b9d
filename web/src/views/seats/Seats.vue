<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, of, type Seat } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import OrderedList from '../../parts/OrderedList.vue'
import { useArranged } from '../../parts/useArranged'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import { moment } from '../../parts/when'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const busy = ref('')
const seat = computed(() =>
  route.query.seat ? library.seats.find(({ id }) => id === Number(route.query.seat)) : library.seats[0],
)
const fresh = computed(() => tray.ids.filter((id) => !seat.value?.preset_ids.includes(id)))
const at = () => ({ params: { path: { id: seat.value!.id } } })
async function doing(what: string, deed: () => Promise<Seat>, said: (seat: Seat) => string) {
  busy.value = what
  await toast.attempt(async () => {
    const got = await deed()
    await library.load()
    toast.done(said(got))
  })
  busy.value = ''
}

const arranged = useArranged(async (id, { ids }) => {
  const got = await of(api.PUT('/api/seats/{id}/plan', { params: { path: { id } }, body: { preset_ids: ids } }))
  toast.done(`${got.preset_ids.length} brushes in the start plan of ${got.name}. Hand it out to put it in place.`)
}, library.load)
const plan = (ids: number[]) => toast.attempt(() => arranged.put(seat.value!.id, seat.value!.preset_ids, { ids }))
const planned = computed(() => arranged.shown(seat.value?.id)?.ids ?? seat.value?.preset_ids ?? [])
const handOut = () =>
  doing(
    'hand out',
    () => of(api.POST('/api/seats/{id}/hand-out', at())),
    (got) => `Handed out to ${got.name}, into ${got.path}.`,
  )
const restart = () =>
  doing(
    'restart',
    () => of(api.POST('/api/seats/{id}/restart', at())),
    ({ name, report }) => {
      const failed = report!.failed ? `, ${report!.failed} failed` : ''
      return `${name} started: ${report!.loaded.length - report!.failed} brushes loaded${failed}.`
    },
  )
async function make(name: string) {
  let id: number | undefined
  await doing(
    'make',
    async () => {
      const made = await of(api.POST('/api/libraries/{library}/seats', { ...library.path(), body: { name } }))
      id = made.id
      return made
    },
    (got) => `${got.name} is a seat now. Give it a start plan.`,
  )
  return id
}
</script>

<template>
  <div class="page seats">
    <Chooser
      v-slot="{ one }"
      title="Seats"
      :list="library.seats"
      :chosen="seat?.id"
      by="seat"
      :adds="session.mayHandOut"
      add="Name of a new seat"
      :make="make"
    >
      <span class="small" :class="one.state === 'behind' ? 'changed' : 'soft'">{{ one.state }}</span>
    </Chooser>
    <section v-if="seat">
      <div class="line head">
        <h1>{{ seat.name }}</h1>
        <span :class="seat.state === 'behind' ? 'changed' : 'soft'">{{ seat.state }}</span>
        <span v-if="seat.handed_out_at" class="soft">handed out {{ moment(seat.handed_out_at) }}</span>
        <span class="grow" />
        <template v-if="session.mayHandOut">
          <el-button :disabled="!fresh.length || !!busy" @click="plan([...seat.preset_ids, ...fresh])"
            >Add the tray · {{ fresh.length }}</el-button
          >
          <el-button
            type="primary"
            :disabled="!seat.preset_ids.length || !!busy"
            :loading="busy === 'hand out'"
            @click="handOut"
            >Hand out</el-button
          >
        </template>
        <el-button
          v-if="session.mayEdit"
          :disabled="!seat.handed_out_at || !!busy"
          :loading="busy === 'restart'"
          @click="restart"
          >Restart this seat</el-button
        >
      </div>
      <h2>Start plan <span class="soft small">loaded at every start, in this order</span></h2>
      <OrderedList
        :ids="planned"
        :fixed="!session.mayHandOut"
        empty="Nothing is loaded at start yet. Pick brushes on the Wall, then add the tray."
        @change="plan"
      />

      <template v-if="seat.report">
        <h2 class="report">
          Last start
          <span class="soft small"
            >{{ moment(seat.report.started_at) }}, {{ Math.round(seat.report.ms) }} ms, from {{ seat.path }}</span
          >
        </h2>
        <table aria-label="Report of the last start">
          <tbody>
            <tr v-for="one in seat.report.loaded" :key="one.name + one.fingerprint">
              <td><span v-if="one.ok" class="good">● loaded</span><span v-else class="missing">failed</span></td>
              <td>
                <b>{{ one.name }}</b>
              </td>
              <td class="soft">{{ Math.round(one.ms) }}&nbsp;ms</td>
              <td>{{ one.problem }}</td>
            </tr>
            <tr v-for="path in seat.report.stray" :key="path">
              <td><span class="changed">not in the plan</span></td>
              <td>{{ path }}</td>
              <td />
              <td />
            </tr>
          </tbody>
        </table>
      </template>
    </section>
    <div v-else-if="route.query.seat" class="empty" role="alert">
      <p>There is no such seat in {{ session.library?.name }}.</p>
    </div>
    <div v-else class="empty">
      <p>No seats yet. {{ session.mayHandOut ? 'Name one at the left.' : 'A lead of this library adds them.' }}</p>
    </div>
  </div>
</template>

<style scoped>
.seats {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 28px;
  align-content: start;
}
.head {
  margin-bottom: 14px;
}
h2 {
  margin-bottom: 6px;
}
.report {
  margin-top: 22px;
}
table {
  border-collapse: collapse;
}
td {
  padding: 3px 18px 3px 0;
}
.good {
  color: var(--accent);
  font-weight: 700;
}
</style>
