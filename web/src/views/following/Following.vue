<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { turns } from '../../parts/newest'
import { day } from '../../parts/when'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import UpdateDialog from './UpdateDialog.vue'

/** What this library follows, and who has what of its own brushes. */
type Follow = components['schemas']['Follow']
type Listed = { id: number; name: string; library: string; library_id: number; release: { number: string } }
const library = useLibrary()
const session = useSession()
const toast = useToast()
const route = useRoute()
const follows = ref<Follow[]>()
const proposed = ref<Listed[]>([])
const asked = ref<string[]>([])
const rights = ref<components['schemas']['FollowRight'][]>([])
const chosen = ref('')
const busy = ref(false)
const updating = ref<{ follow: Follow; release?: number }>()
const leads = computed(() => session.library?.role === 'lead' && !session.library.archived)

const turn = turns()
async function load() {
  const mine = turn()
  const got = await of(api.GET('/api/libraries/{library}/follows', library.path()))
  if (!mine()) return
  follows.value = got.follows
  proposed.value = got.proposed
  asked.value = got.asked
  rights.value = got.rights
}
const reload = () => toast.attempt(load)
onMounted(async () => {
  await reload()
  const named = follows.value?.find(({ id }) => id === Number(route.query.follow))
  if (named?.behind) updating.value = { follow: named }
})
watch(() => library.stamp, reload)

/** What can be followed, by the library it is of. */
const sources = computed(() => {
  const found = new Map<number, Listed[]>()
  for (const one of proposed.value) found.set(one.library_id, [...(found.get(one.library_id) ?? []), one])
  return [...found.values()]
})
function send() {
  const [kind, id] = chosen.value.split(' ')
  if (kind === 'bundle') {
    const body = { bundle_id: Number(id) }
    return of(api.POST('/api/libraries/{library}/follows', { ...library.path(), body }))
  }
  const body = { library_id: Number(id) }
  return of(api.POST('/api/libraries/{library}/follows/whole', { ...library.path(), body }))
}
async function begin() {
  busy.value = true
  await toast.attempt(async () => {
    const { follows: made, asked: onlyAsked } = await send()
    chosen.value = ''
    if (onlyAsked) return toast.done('Request sent. You’ll be notified when a lead decides.')
    await library.load()
    const brushes = made.reduce((sum, one) => sum + one.brushes, 0)
    const names = made.map(({ bundle }) => `“${bundle}”`).join(', ')
    toast.done(`${names} ${made.length === 1 ? 'is' : 'are'} followed: ${brushes} brushes are here.`)
  })
  busy.value = false
  await reload()
}
const at = (one: Follow) => ({ params: { path: { id: one.id } } })
const setStays = (one: Follow) =>
  toast.attempt(async () => {
    await of(api.PUT('/api/follows/{id}', { ...at(one), body: { stays: !one.stays } }))
    await load()
  })
const letGo = (one: Follow) =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/follows/{id}', at(one)))
    await load()
    toast.done(`Unfollowed “${one.bundle}”. Its brushes stay in this library.`)
  })
type Decision = 'granted' | 'refused' | 'ended'
const decide = (item: number, state: Decision) =>
  toast.attempt(async () => {
    const path = { ...library.path().params.path, item }
    await of(api.PUT('/api/libraries/{library}/follow-rights/{item}', { params: { path }, body: { state } }))
    await load()
  })
const RIGHTS = {
  asked: 'asks to follow bundles of this library',
  granted: 'may follow bundles of this library',
  refused: 'was refused',
  ended: 'access ended; it keeps what it has',
}
function state(one: Follow) {
  if (one.ended) return one.ended
  if (!one.at) return 'not imported yet'
  if (one.withdrawn !== null)
    return `release ${one.at?.number} was withdrawn${one.withdrawn ? `: ${one.withdrawn}` : ''}`
  if (one.stays) return `stays at ${one.at?.number}`
  return one.behind ? `at ${one.at?.number}; ${one.newest?.number} is out` : `up to date, ${one.at?.number}`
}
async function taken() {
  updating.value = undefined
  await toast.attempt(() => library.load())
}
</script>

<template>
  <div class="page">
    <div class="line">
      <h1>Following</h1>
      <span class="soft">Bundles of other libraries that this library follows.</span>
    </div>
    <p v-if="follows && !follows.length" class="soft">Not following any bundles yet.</p>
    <div v-for="one in follows" :key="one.id" class="one line">
      <b>{{ one.bundle }}</b><span class="soft">of {{ one.library }}</span
      ><span :class="{ changed: one.behind, missing: one.withdrawn !== null || one.ended }">{{ state(one) }}</span>
      <span class="soft"
        >{{ one.brushes }} {{ one.brushes === 1 ? 'brush' : 'brushes'
        }}{{ one.newest ? `, newest of ${day(one.newest.at)}` : '' }}</span
      >
      <span class="grow" />
      <template v-if="leads">
        <el-button
          v-if="one.newest && one.newest.id !== one.at?.id && !one.ended"
          size="small"
          type="primary"
          @click="updating = { follow: one }"
          >Review changes…</el-button
        >
        <button
          v-if="one.earlier && !one.ended"
          class="plain"
          @click="updating = { follow: one, release: one.earlier.id }"
        >
          Go back to {{ one.earlier.number }}…
        </button>
        <button class="plain" @click="setStays(one)">
          {{ one.stays ? 'Follow the latest' : 'Stay on this release' }}
        </button>
        <button class="plain" @click="letGo(one)">Unfollow</button>
      </template>
    </div>
    <form v-if="leads && proposed.length" class="line" @submit.prevent="begin">
      <label class="line"
        >Follow a bundle
        <el-select
          v-model="chosen"
          aria-label="A bundle to follow"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
        >
          <el-option value="" label="Choose a bundle or a library" />
          <el-option-group v-for="list in sources" :key="list[0]!.library_id" :label="list[0]!.library">
            <el-option
              v-if="list.length > 1"
              :value="`library ${list[0]!.library_id}`"
              :label="`All of ${list[0]!.library} (${list.length} bundles)`"
            />
            <el-option
              v-for="one in list"
              :key="one.id"
              :value="`bundle ${one.id}`"
              :label="`${one.name} ${one.release.number}`"
            />
          </el-option-group> </el-select
      ></label>
      <el-button native-type="submit" :disabled="!chosen" :loading="busy">Follow</el-button>
    </form>
    <p v-for="name in asked" :key="name" class="soft">
      “{{ name }}” has been asked whether this library may follow it.
    </p>
    <section v-if="leads && rights.length" aria-labelledby="rights">
      <h2 id="rights">Libraries that follow this one</h2>
      <div v-for="one in rights" :key="one.id" class="one line">
        <b>{{ one.library }}</b>
        <span :class="{ changed: one.state === 'asked' }">{{ RIGHTS[one.state] }}</span>
        <span class="soft">{{
          [one.bundles.join(', '), one.reason, one.decided_by && `decided by ${one.decided_by}`]
            .filter(Boolean)
            .join(' · ')
        }}</span>
        <span class="grow" />
        <template v-if="one.state === 'asked'">
          <el-button size="small" @click="decide(one.id, 'granted')">Allow</el-button>
          <button class="plain" @click="decide(one.id, 'refused')">Refuse</button>
        </template>
        <button v-else-if="one.state === 'granted'" class="plain" @click="decide(one.id, 'ended')">End access</button>
        <button v-else class="plain" @click="decide(one.id, 'granted')">Allow again</button>
      </div>
    </section>
    <UpdateDialog
      v-if="updating"
      :follow="updating.follow"
      :release="updating.release"
      @close="updating = undefined"
      @taken="taken"
    />
  </div>
</template>

<style scoped>
.one {
  padding: 8px 0;
  border-top: 1px solid var(--line);
  flex-wrap: wrap;
}
form {
  margin: 10px 0 24px;
}
</style>
