<script setup lang="ts">
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { offline, signedOut } from './api/connection'
import { useNight } from './look/night'
import Checklist from './parts/Checklist.vue'
import { passEscape } from './parts/escape'
import FirstVisit from './parts/FirstVisit.vue'
import NewLibrary from './parts/NewLibrary.vue'
import You from './parts/You.vue'
import HeadLine from './parts/HeadLine.vue'
import Progress from './parts/Progress.vue'
import Rail from './parts/Rail.vue'
import SignInAgain from './parts/SignInAgain.vue'
import Tokens from './parts/Tokens.vue'
import Toast from './parts/Toast.vue'
import Tabs from './parts/Tabs.vue'
import Tray from './parts/Tray.vue'
import { useDeed } from './parts/useDeed'
import { entries, views } from './routes'
import { useImport } from './stores/import'
import { useLibrary } from './stores/library'
import { useLive } from './stores/live'
import { useSession } from './stores/session'
import { useToast } from './stores/toast'
import { useUnsent } from './stores/unsent'
import SignIn from './views/signin/SignIn.vue'

const HelpDialog = defineAsyncComponent(() => import('./parts/HelpDialog.vue'))

useNight()
const session = useSession()
const library = useLibrary()
const incoming = useImport()
useLive()
const toast = useToast()
const route = useRoute()
const router = useRouter()
const head = ref<InstanceType<typeof HeadLine>>()
const keys = ref(false)
const tokens = ref(false)
const you = ref(false)
const making = ref(false)
const here = computed(() => ({ library: session.libraryId }))
const { busy: beginning, problem: silent, go: begin } = useDeed(session.load)
onMounted(begin)
// Whoever signs in comes into a library in the same moment: it is read once.
watch(
  () => [session.person?.id, session.libraryId],
  ([person, id]) => person && id && toast.attempt(library.load),
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
    await Promise.race([unsent.keepAll(), new Promise((done) => setTimeout(done, 3000))])
    kept.value = true
  },
)
useIntervalFn(() => session.person && !signedOut.value && unsent.keepAll(), 60_000)
// Who may only look now is shown nothing that only others may do.
watch(
  () => session.library?.role,
  (role, before) => role && before && role !== before && toast.done(`You’re now ${role} in this library.`),
)

// What the address was before anybody had signed in counts from then on.
watch(
  () => session.person?.id,
  async (id) => {
    if (!id) return
    await router.isReady()
    await router.replace({ path: route.path, query: route.query, force: true })
  },
)

/** What stands before the studio, whoever is signed in. */
const bare = computed(() => route.name === 'begin' || route.name === 'invitation')
/** Why there is nothing to see at this address, for this person. */
const barred = computed(() => {
  const view = views.find(({ name }) => name === route.name)
  if (route.params.library && Number(route.params.library) !== session.libraryId)
    return 'This library doesn’t exist, or you’re not a member of it.'
  if (route.name === 'nowhere') return 'Page not found.'
  if (view && !session.mayUse(view.who)) {
    const you = `You are ${session.mayEdit ? 'an artist' : 'a guest'} in ${session.library?.name}`
    const whose = {
      leads: 'leads.',
      owner: 'the studio’s administrator.',
      editors: 'artists and leads. Ask a lead for access.',
      all: 'everybody.',
    }[view.who]
    const title = entries.find(({ name }) => name === view.entry)?.title ?? view.title
    return `${you}: you can view its brushes, but “${title}” is for ${whose}`
  }
  return undefined
})

useEventListener(window, 'keydown', passEscape, { capture: true })
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const typing = (event.target as HTMLElement).closest('input, textarea, select, [role=dialog]')
  if (typing || event.ctrlKey || event.metaKey || event.altKey || !session.person) return
  if (event.key === '/') {
    event.preventDefault()
    head.value?.search()
  }
  if (event.key === '?') keys.value = true
})

// Files may be dropped anywhere.
useEventListener(window, 'dragover', (event: DragEvent) => {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  incoming.over = true
})
useEventListener(window, 'dragleave', (event: DragEvent) => {
  if (!event.relatedTarget) incoming.over = false
})
useEventListener(window, 'drop', (event: DragEvent) => {
  incoming.over = false
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  if (!session.mayEdit)
    return toast.problem(new Error('You can view this library but not add to it. Nothing was imported.'), true)
  const brought = incoming.brought(event.dataTransfer)
  toast.attempt(async () => {
    const files = await brought
    if (files.length) await incoming.take(files)
  })
})
</script>

<template>
  <router-view v-if="session.ready && bare" />
  <SignIn v-else-if="session.ready && !session.person" />
  <div v-else-if="silent && !session.person" class="empty silent" role="alert">
    <h1>fobrel</h1>
    <p>{{ silent }}</p>
    <el-button type="primary" :loading="beginning" @click="begin">Try again</el-button>
  </div>
  <div v-else-if="session.person" class="frame">
    <HeadLine ref="head" @keys="keys = true" @tokens="tokens = true" @you="you = true" @new-library="making = true" />
    <Rail />
    <main>
      <Progress />
      <div v-if="barred" class="empty barred">
        <p>{{ barred }}</p>
        <el-button type="primary" @click="router.push({ name: 'brushes', params: here })">Go to Brushes</el-button>
      </div>
      <router-view v-else-if="kept && library.loaded === session.libraryId" v-slot="{ Component }">
        <Checklist />
        <Tabs />
        <FirstVisit />
        <div class="view"><component :is="Component" :key="`${session.libraryId}.${route.params.id ?? ''}`" /></div>
      </router-view>
      <Toast />
      <div v-if="incoming.over" class="dropping">
        <p>Drop to add: a single picture opens in the Tip maker, everything else in Import.</p>
      </div>
      <HelpDialog v-if="keys" v-model="keys" />
      <Tokens v-if="tokens" @close="tokens = false" />
      <You v-if="you" @close="you = false" />
      <NewLibrary v-if="making" @close="making = false" />
    </main>
    <Tray />
  </div>
  <div v-else class="empty silent waiting" role="status">
    <h1>fobrel</h1>
    <p>{{ offline ? 'The server isn’t answering. Reconnecting…' : 'One moment…' }}</p>
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
.silent h1 {
  font-size: 28px;
  font-weight: 800;
  letter-spacing: -1px;
  margin-bottom: 14px;
}
/* Only where it takes a while. */
.waiting {
  animation: come 0.2s 0.7s both;
}
@keyframes come {
  from {
    opacity: 0;
  }
}
.barred {
  max-width: 560px;
  margin: 0 auto;
}
main {
  position: relative;
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.view {
  flex: 1;
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
/* Half a screen, or twice as large: the views stand in a line above. */
@media (max-width: 820px) {
  .frame {
    grid-template: auto auto minmax(0, 1fr) auto / minmax(0, 1fr);
  }
}
.toasts.alone {
  position: fixed;
}
</style>
