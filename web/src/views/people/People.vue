<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { dated, day } from '../../parts/when'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import InviteDialog from './InviteDialog.vue'
import LeaveDialog from './LeaveDialog.vue'

/** Who is in this library, what they may do, and who is invited. */
export type Member = components['schemas']['Member']
type Invitation = components['schemas']['Invitation']
const library = useLibrary()
const session = useSession()
const toast = useToast()
const people = ref<Member[]>()
const invitations = ref<Invitation[]>([])
const inviting = ref(false)
const leaving = ref<Member>()
const leads = computed(() => session.library?.role === 'lead')
const own = computed(() => session.library?.kind === 'personal')
const ROLES = { guest: 'Guest: view', artist: 'Artist: edit', lead: 'Lead: full control' }

async function load() {
  people.value = (await of(api.GET('/api/libraries/{library}/people', library.path()))).people
  if (leads.value)
    invitations.value = (await of(api.GET('/api/libraries/{library}/invitations', library.path()))).invitations
}
onMounted(() => toast.attempt(load))
watch(
  () => library.stamp,
  () => toast.attempt(load),
)

const at = (item: number) => ({ params: { path: { ...library.path().params.path, item } } })
async function setRole(member: Member, role: Member['role']) {
  await toast.recorded(async () =>
    of(api.PUT('/api/libraries/{library}/people/{item}', { ...at(member.id), body: { role } })),
  )
  if (member.id === session.person?.id) await toast.attempt(session.load)
  await toast.attempt(load)
}
const takeBack = (one: Invitation) =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/libraries/{library}/invitations/{item}', at(one.id)))
    await load()
    toast.done('Invitation revoked. Its link no longer works.')
  })
async function left() {
  const mine = leaving.value!.id === session.person?.id
  leaving.value = undefined
  await toast.attempt(mine ? session.load : load)
}
function closeInvite() {
  inviting.value = false
  void toast.attempt(load)
}
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>People</h1>
      <span class="soft">Members of {{ session.library?.name }} and their roles.</span><span class="grow" />
      <el-button v-if="leads && !own" type="primary" @click="inviting = true">Invite…</el-button>
    </div>
    <table v-if="people" class="list" aria-label="People">
      <thead>
        <tr>
          <th>Name</th>
          <th>Signs in as</th>
          <th>May</th>
          <th>Last seen</th>
          <th>Drafts here</th>
          <td />
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in people" :key="one.id">
          <td>
            <b>{{ one.name }}</b><span v-if="one.closed" class="missing"> account closed</span>
          </td>
          <td class="soft">{{ one.login }}</td>
          <td>
            <el-select
              v-if="leads && !own"
              :model-value="one.role"
              :aria-label="`Role of ${one.name}`"
              size="small"
              class="inline-select"
              :empty-values="[undefined]"
              @update:model-value="setRole(one, $event as Member['role'])"
            >
              <el-option v-for="(words, role) in ROLES" :key="role" :value="role" :label="words" /></el-select
            ><template v-else>{{ ROLES[one.role] }}</template>
          </td>
          <td class="soft">{{ dated(one.seen_at, 'never') }}</td>
          <td>{{ one.drafts || '' }}</td>
          <td>
            <button v-if="!own && (leads || one.id === session.person?.id)" class="plain" @click="leaving = one">
              {{ one.id === session.person?.id ? 'Leave…' : 'Remove…' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <template v-if="invitations.length">
      <h2>Invited</h2>
      <div v-for="one in invitations" :key="one.id" class="line one">
        <b>{{ one.name || 'somebody' }}</b><span>as {{ one.role }}</span
        ><span class="soft">by {{ one.by }}, {{ day(one.at) }}; valid until {{ day(one.ends_at) }}</span
        ><span class="grow" /><button class="plain" @click="takeBack(one)">Revoke</button>
      </div>
    </template>
    <InviteDialog v-if="inviting" @close="closeInvite" />
    <LeaveDialog v-if="leaving" :member="leaving" :people="people!" @close="leaving = undefined" @left="left" />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
h2 {
  margin: 22px 0 6px;
}
.one {
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
</style>
