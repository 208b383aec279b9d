<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of, type Entry } from '../../api/client'
import type { components } from '../../api/schema'
import { sized } from '../../parts/bytes'
import { dated } from '../../parts/when'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import Backups from './Backups.vue'

/** For whoever runs the installation: its people, its libraries, and what has to be put right. */
type Found = components['schemas']['Studio']
const session = useSession()
const toast = useToast()
const found = ref<Found>()
const load = async () => (found.value = await of(api.GET('/api/studio')))
/** Tokens, sign-ins from new places, accounts: what is in no library's history. */
const entries = ref<Entry[]>([])
const more = ref(false)
async function look(below = false) {
  const before = below ? entries.value.at(-1)?.place : undefined
  const got = await of(api.GET('/api/studio/history', { params: { query: before ? { before } : {} } }))
  entries.value = below ? [...entries.value, ...got.entries] : got.entries
  more.value = got.more
}
onMounted(() => toast.attempt(() => Promise.all([load(), look()])))

const change = (one: Found['people'][number], body: { owner?: boolean; closed?: boolean }) =>
  toast.attempt(async () => {
    await of(api.PUT('/api/studio/people/{item}', { params: { path: { item: one.id } }, body }))
    await Promise.all([load(), look()])
  })
const takeOver = (one: Found['libraries'][number]) =>
  toast.attempt(async () => {
    const { entry } = await of(api.POST('/api/studio/libraries/{item}/lead', { params: { path: { item: one.id } } }))
    await Promise.all([load(), session.load()])
    toast.done(`${entry.summary}.`)
  })
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Studio</h1>
      <span class="soft"
        >People and libraries of this studio<template v-if="found">, {{ sized(found.size) }} in all</template>.</span
      >
    </div>
    <template v-if="found">
      <h2>People</h2>
      <table class="list" aria-label="People of the studio">
        <thead>
          <tr>
            <th>Name</th>
            <th>Signs in as</th>
            <th>In</th>
            <th>Last seen</th>
            <th>Runs the studio</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in found.people" :key="one.id">
            <td>
              <b>{{ one.name }}</b><span v-if="one.closed" class="missing"> account closed</span>
            </td>
            <td class="soft">{{ one.login }}</td>
            <td>{{ one.libraries.join(', ') || 'no library' }}</td>
            <td class="soft">{{ dated(one.seen_at, 'never') }}</td>
            <td>
              <el-checkbox
                :model-value="one.owner"
                :disabled="one.id === session.person?.id"
                :aria-label="`${one.name} runs the studio`"
                @change="change(one, { owner: !one.owner })"
              />
            </td>
            <td>
              <button v-if="one.id !== session.person?.id" class="plain" @click="change(one, { closed: !one.closed })">
                {{ one.closed ? 'Reopen account' : 'Close account' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <h2>Libraries</h2>
      <table class="list" aria-label="Libraries of the studio">
        <thead>
          <tr>
            <th>Name</th>
            <th>Kind</th>
            <th class="count">Brushes</th>
            <th class="count">People</th>
            <th>Backed up last</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in found.libraries" :key="one.id">
            <td>
              <b>{{ one.name }}</b><span v-if="one.archived" class="soft"> in the archive</span>
            </td>
            <td class="soft">{{ one.kind }}</td>
            <td class="count">{{ one.brushes }}</td>
            <td class="count">{{ one.people }}</td>
            <td class="soft">{{ dated(one.saved_at, 'never') }}</td>
            <td>
              <template v-if="!one.led"
                ><span class="missing">no lead</span>
                <button v-if="one.kind !== 'personal'" class="plain" @click="takeOver(one)">Take over</button></template
              >
            </td>
          </tr>
        </tbody>
      </table>
      <Backups :found="found.backups" :load="load" />
      <h2>Accounts, tokens and sign-ins</h2>
      <table class="list" aria-label="Accounts, tokens and sign-ins">
        <tbody>
          <tr v-for="one in entries" :key="one.id">
            <td class="soft">{{ dated(one.at) }}</td>
            <td>{{ one.by }}</td>
            <td>{{ one.summary }}</td>
          </tr>
        </tbody>
      </table>
      <button v-if="more" class="plain" @click="toast.attempt(() => look(true))">Load older entries</button>
    </template>
  </div>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
.count {
  text-align: right;
}
</style>
