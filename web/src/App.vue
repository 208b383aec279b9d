<script setup lang="ts">
import { useDark, useEventListener, useIntervalFn, useToggle } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { offline, signedOut } from './api/connection'
import Keys from './parts/Keys.vue'
import SearchLine from './parts/SearchLine.vue'
import SignInAgain from './parts/SignInAgain.vue'
import Tokens from './parts/Tokens.vue'
import Toast from './parts/Toast.vue'
import Tray from './parts/Tray.vue'
import { useDeed } from './parts/useDeed'
import { views } from './routes'
import { useArrival } from './stores/arrival'
import { useLibrary } from './stores/library'
import { useSession } from './stores/session'
import { useToast } from './stores/toast'
import { useUnsent } from './stores/unsent'
import { useWork } from './stores/work'
import SignIn from './views/signin/SignIn.vue'

const session = useSession()
const library = useLibrary()
const arrival = useArrival()
const toast = useToast()
const work = useWork()
const route = useRoute()
const router = useRouter()
const night = useDark({ valueDark: 'night', valueLight: 'day', storageKey: 'fobrel.ground', initialValue: 'light' })
const toggleNight = useToggle(night)
const searchLine = ref<InstanceType<typeof SearchLine>>()
const keys = ref(false)
const tokens = ref(false)
const drafts = computed(() => library.count('draft'))
const behind = computed(() => library.seats.filter(({ state }) => state === 'behind').length)
/** The views this person may use, under their headings; a heading of none is left out. */
const groups = computed(() =>
  [...new Set(views.map(({ group }) => group))]
    .map((group) => ({ group, views: views.filter((view) => view.group === group && session.mayUse(view.who)) }))
    .filter((one) => one.views.length),
)

const here = computed(() => ({ library: session.libraryId }))
const { busy: beginning, problem: silent, go: begin } = useDeed(session.load)
onMounted(begin)
watch(
  () => session.libraryId,
  (id) => id && toast.attempt(library.load),
  { immediate: true },
)

// What could not be kept before this page was loaded is kept before anything is shown, or a little later.
const unsent = useUnsent()
const kept = ref(false)
watch(
  () => session.person?.id,
  async (id) => {
    kept.value = false
    if (!id) return
    toast.attempt(library.load)
    await Promise.race([unsent.keepAll(), new Promise((done) => setTimeout(done, 3000))])
    kept.value = true
  },
)
useIntervalFn(() => session.person && !signedOut.value && unsent.keepAll(), 60_000)
// Who may only look now is shown nothing that only others may do.
watch(
  () => session.library?.role,
  (role, before) => role && before && role !== before && toast.done(`You are ${role} in this library now.`),
)

const change = (id: number) =>
  router.push({ name: views.find(({ name }) => name === route.name)?.name ?? 'wall', params: { library: id } })

// What the address was before anybody had signed in counts from then on.
watch(
  () => session.person?.id,
  async (id) => {
    if (!id) return
    await router.isReady()
    await router.replace({ path: route.path, query: route.query, force: true })
  },
)

/** Why there is nothing to see at this address, for this person. */
const barred = computed(() => {
  const view = views.find(({ name }) => name === route.name)
  if (route.params.library && Number(route.params.library) !== session.libraryId)
    return 'This address is in a library that is not here, or that you are not a member of.'
  if (route.name === 'nowhere') return 'There is nothing at this address.'
  if (view && !session.mayUse(view.who)) {
    const you = `You are ${session.mayEdit ? 'an artist' : 'a guest'} in ${session.library?.name}`
    const whose = view.who === 'leads' ? 'its leads.' : 'those who change them. A lead of this library can let you in.'
    return `${you}: you can look at its brushes, but “${view.title}” is for ${whose}`
  }
  return undefined
})

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const typing = (event.target as HTMLElement).closest('input, textarea, select, [role=dialog]')
  if (typing || event.ctrlKey || event.metaKey || event.altKey || !session.person) return
  if (event.key === '/') {
    event.preventDefault()
    searchLine.value?.focus()
  }
  if (event.key === '?') keys.value = true
})

// Files may be dropped anywhere.
useEventListener(window, 'dragover', (event: DragEvent) => {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  arrival.over = true
})
useEventListener(window, 'dragleave', (event: DragEvent) => {
  if (!event.relatedTarget) arrival.over = false
})
useEventListener(window, 'drop', (event: DragEvent) => {
  arrival.over = false
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  if (!session.mayEdit)
    return toast.problem(new Error('You may look at this library but not add to it. Nothing was taken.'), true)
  const brought = arrival.brought(event.dataTransfer)
  toast.attempt(async () => {
    const files = await brought
    if (files.length) await arrival.take(files)
  })
})
</script>

<template>
  <SignIn v-if="session.ready && !session.person" />
  <div v-else-if="silent && !session.person" class="empty silent" role="alert">
    <h1>fobrel</h1>
    <p>{{ silent }}</p>
    <el-button type="primary" :loading="beginning" @click="begin">Try again</el-button>
  </div>
  <div v-else-if="session.person" class="frame">
    <header>
      <span class="brand" aria-label="Fobrel">fobrel<i /></span>
      <el-select :model-value="session.libraryId" class="libraries" aria-label="Library" @update:model-value="change">
        <el-option v-for="one in session.libraries" :key="one.id" :value="one.id" :label="one.name" />
      </el-select>
      <SearchLine ref="searchLine" />
      <Toast />
      <router-link v-if="work.open.length" :to="{ name: 'intake', params: here }" class="work" role="status"
        ><i :style="{ width: `${work.part(work.open[0]!)}%` }" />{{ work.open[0]!.message
        }}{{ work.open[0]!.total ? ` · ${work.part(work.open[0]!)} %` : ''
        }}{{ work.open.length > 1 ? `, and ${work.open.length - 1} more` : '' }}</router-link
      >
      <span v-if="offline" class="offline" role="status">no connection, trying again…</span>
      <button class="plain" :aria-pressed="night" @click="toggleNight()">{{ night ? 'Night' : 'Day' }}</button>
      <button class="plain" aria-label="Keys" @click="keys = true">?</button>
      <el-dropdown trigger="click">
        <button class="who" :aria-label="`Signed in as ${session.person.name}`">{{ session.person.name[0] }}</button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item disabled>{{ session.person.name }}, {{ session.library?.role }}</el-dropdown-item>
            <el-dropdown-item @click="tokens = true">Tokens for programs…</el-dropdown-item>
            <el-dropdown-item @click="toast.attempt(session.signOut)">Sign out</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </header>
    <nav aria-label="Views">
      <template v-for="{ group, views: list } in groups" :key="group">
        <h3>{{ group }}</h3>
        <router-link
          v-for="view in list"
          :key="view.name"
          :to="{ name: view.name, params: here }"
          active-class="here"
          :class="{ here: view.name === 'drafts' && route.name === 'bench' }"
        >
          {{ view.title }}
          <b v-if="view.name === 'drafts' && drafts" title="Your drafts">{{ drafts }}</b>
          <b v-if="view.name === 'seats' && behind" title="Seats that are behind">{{ behind }}</b>
        </router-link>
      </template>
    </nav>
    <main>
      <div v-if="barred" class="empty barred">
        <p>{{ barred }}</p>
        <el-button type="primary" @click="router.push({ name: 'wall', params: here })"
          >To the Wall{{ session.library ? ` of ${session.library.name}` : '' }}</el-button
        >
      </div>
      <router-view v-else-if="kept && library.loaded === session.libraryId" v-slot="{ Component }">
        <component :is="Component" :key="`${session.libraryId}.${route.params.id ?? ''}`" />
      </router-view>
      <div v-if="arrival.over" class="dropping">
        <p>Drop it: one picture becomes a tip; packages, folders and everything else go to the Intake.</p>
      </div>
    </main>
    <Tray />
    <Keys v-model="keys" />
    <Tokens v-if="tokens" @close="tokens = false" />
  </div>
  <div v-else class="empty silent" role="status">
    <h1>fobrel</h1>
    <p>{{ offline ? 'The server does not answer. It is asked again and again.' : 'One moment…' }}</p>
  </div>
  <SignInAgain />
  <Toast v-if="!session.person" class="alone" />
</template>

<style scoped>
.frame {
  display: grid;
  grid-template: 52px minmax(0, 1fr) auto / 128px minmax(0, 1fr);
  height: 100%;
}
.offline {
  color: var(--ochre);
  background: var(--ochre-wash);
  border-radius: 6px;
  padding: 3px 10px;
  font-weight: 600;
  font-size: 12px;
  white-space: nowrap;
}
header {
  grid-column: 1 / 3;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}
.brand {
  font-weight: 800;
  font-size: 19px;
  letter-spacing: -0.6px;
  width: 98px;
  white-space: nowrap;
}
.brand i {
  display: inline-block;
  width: 24px;
  height: 7px;
  margin-left: 4px;
  border-radius: 7px 2px 9px 1px;
  background: var(--accent);
  transform: rotate(-8deg);
  vertical-align: 2px;
}
.libraries {
  width: 190px;
  flex: none;
}
.work {
  position: relative;
  overflow: hidden;
  max-width: 240px;
  padding: 3px 10px;
  border-radius: 6px;
  background: var(--accent-wash);
  color: var(--accent);
  font-weight: 600;
  font-size: 12px;
  text-decoration: none;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.work i {
  position: absolute;
  left: 0;
  bottom: 0;
  height: 3px;
  background: var(--accent);
  transition: width 0.3s;
}
.who {
  width: 28px;
  height: 28px;
  border: 0;
  border-radius: 50%;
  background: var(--accent);
  color: var(--on-accent);
  font: inherit;
  font-weight: 700;
  cursor: pointer;
}
nav {
  background: var(--rail);
  border-right: 1px solid var(--line);
  padding: 8px 0;
  overflow: auto;
}
nav h3 {
  margin: 12px 16px 3px;
  font-size: 11px;
  font-weight: 600;
  color: var(--soft);
}
nav a {
  display: block;
  padding: 5px 16px;
  font-size: 13.5px;
  color: var(--ink);
  text-decoration: none;
}
nav a:hover {
  background: var(--card);
}
nav a.here {
  font-weight: 700;
  background: var(--card);
  box-shadow: inset 4px 0 var(--accent);
}
nav a b {
  float: right;
  color: var(--ochre);
}
.silent h1 {
  font-size: 28px;
  font-weight: 800;
  letter-spacing: -1px;
  margin-bottom: 14px;
}
.barred {
  max-width: 560px;
  margin: 0 auto;
}
main {
  position: relative;
  min-width: 0;
  min-height: 0;
}
.dropping {
  position: absolute;
  inset: 8px;
  z-index: 50;
  display: grid;
  place-items: center;
  border: 2px dashed var(--accent);
  border-radius: 12px;
  background: color-mix(in srgb, var(--accent-wash) 88%, transparent);
  font-size: 15px;
  font-weight: 600;
  pointer-events: none;
}
</style>
