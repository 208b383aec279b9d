<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { turns } from '../../parts/newest'
import BackDialog from './BackDialog.vue'
import { atDesk } from './useDesk'

/** Every desk by every brush: what lies in each folder, against its plan; or the same as a table of keys. */
type Table = components['schemas']['DeskTable']
const { library, toast, session } = atDesk()
const table = shallowRef<Table>()
const differs = ref(false)
const keys = ref(false)
const busy = ref(false)
const goingBack = ref(false)
const SIGNS: Record<string, string> = {
  same: '●',
  older: '◗',
  altered: '✕',
  missing: '–',
  renamed: '↻',
  'wrong key': '⌨',
  own: '◆',
}
const turn = turns()
const load = () =>
  toast.attempt(async () => {
    const mine = turn()
    const got = await of(api.GET('/api/libraries/{library}/desk-table', library.path()))
    if (mine()) table.value = got
  })
onMounted(load)
watch(() => library.stamp, load)
const cells = computed(
  () =>
    new Map(table.value?.desks.flatMap((desk) => desk.cells.map((cell) => [`${desk.id} ${cell.id}`, cell] as const))),
)
const cell = (desk: number, brush: string) => cells.value.get(`${desk} ${brush}`)
const brushes = computed(() =>
  (table.value?.brushes ?? []).filter(({ id }) => {
    const list = table.value!.desks.map((desk) => cell(desk.id, id))
    if (keys.value) return list.some((one) => one?.key)
    return !differs.value || list.some((one) => one && one.state !== 'same')
  }),
)
const behind = computed(
  () => table.value?.desks.filter(({ state }) => ['out of date', 'changed on the desk'].includes(state)) ?? [],
)
const send = async () => {
  busy.value = true
  await toast.attempt(async () => {
    const body = { desk_ids: behind.value.map(({ id }) => id) }
    const { told } = await of(api.POST('/api/libraries/{library}/sends', { ...library.path(), body }))
    const bad = told.filter(({ problem }) => problem)
    await library.load()
    toast.done(
      bad.length
        ? bad.map(({ desk, problem }) => `${desk}: ${problem}`).join(' ')
        : `Sent to ${told.map(({ desk }) => desk).join(', ')}.`,
    )
  })
  busy.value = false
}
</script>

<template>
  <section v-if="table" aria-labelledby="all-desks">
    <div class="line">
      <h2 id="all-desks">All desks</h2>
      <span>{{ table.sentence }}</span><span class="grow" />
      <el-checkbox v-model="differs" label="Differences only" :disabled="keys" />
      <el-checkbox v-model="keys" label="Shortcuts" />
      <el-button v-if="session.maySend && behind.length" size="small" :loading="busy" @click="send"
        >Send to all out of date ({{ behind.length }})</el-button
      >
      <button
        v-if="session.maySend && table.desks.some(({ plan }) => plan)"
        class="plain keep"
        @click="goingBack = true"
      >
        Restore several…
      </button>
    </div>
    <div class="wide">
      <table aria-label="All desks">
        <thead>
          <tr>
            <td />
            <th v-if="!keys" scope="col">Elsewhere</th>
            <th v-for="one in brushes" :key="one.id" scope="col">{{ one.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="desk in table.desks" :key="desk.id">
            <th scope="row">
              <router-link :to="{ query: { desk: desk.id } }">{{ desk.name }}</router-link>
              <span class="soft small room">{{ desk.room }}</span>
            </th>
            <td v-if="!keys" class="soft">{{ desk.also.slice(0, 3).join(', ') }}</td>
            <td v-for="one in brushes" :key="one.id" :class="`is-${cell(desk.id, one.id)?.state.replace(' ', '-')}`">
              <template v-if="cell(desk.id, one.id) && keys">{{ cell(desk.id, one.id)?.key ?? '·' }}</template><template
                v-else-if="cell(desk.id, one.id)"
                >{{ SIGNS[cell(desk.id, one.id)!.state] }} {{ cell(desk.id, one.id)!.state }}</template
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <BackDialog v-if="goingBack" :desks="table.desks" @close="goingBack = false" />
  </section>
</template>

<style scoped>
h2,
.keep {
  white-space: nowrap;
}
.wide {
  overflow: auto;
  max-height: 42vh;
}
table {
  border-collapse: collapse;
  white-space: nowrap;
}
th {
  text-align: left;
  font-weight: 600;
  padding: 3px 12px 3px 0;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  color: var(--soft);
  font-size: 12px;
}
td {
  padding: 3px 12px 3px 0;
}
tbody th {
  position: sticky;
  left: 0;
  background: var(--paper);
}
.room {
  margin-left: 8px;
  font-weight: 400;
}
tbody tr {
  border-top: 1px solid var(--line);
}
.is-same {
  color: var(--accent);
}
.is-older {
  color: var(--ochre);
}
.is-altered,
.is-missing {
  color: var(--madder);
}
.is-own {
  color: var(--tag-violet);
}
</style>
