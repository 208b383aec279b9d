<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { onMounted, onUnmounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import { useWork } from '../../stores/work'
import { sized } from '../../parts/bytes'

/** The gallery outside the studio: what lies there can be brought into Import. */
const library = useLibrary()
const toast = useToast()
const work = useWork()
const router = useRouter()
type Package = components['schemas']['GalleryPackage']
const signedIn = ref<boolean>()
const packages = ref<Package[]>([])
const word = ref('')
const token = ref('')
const problem = ref('')
const busy = ref(false)
const fetching = ref<Record<string, number>>({})
type Said = components['schemas']['Gallery']
let asked = 0

/** The server asks the gallery; here one looks whether it has heard of it. Only the last question counts. */
const PAUSE = 600
async function follow(begin: () => Promise<Said>) {
  const mine = ++asked
  busy.value = true
  try {
    let said = await begin()
    while (said.asking && mine === asked) {
      await new Promise((resolve) => setTimeout(resolve, PAUSE))
      if (mine === asked) said = await state()
    }
    if (mine === asked) {
      signedIn.value = said.signed_in
      packages.value = said.packages
      problem.value = said.problem ?? ''
    }
  } catch (error) {
    if (mine === asked) problem.value = (error as Error).message
  }
  if (mine === asked) busy.value = false
}
const state = () => of(api.GET('/api/gallery'))
const look = () => follow(() => of(api.POST('/api/gallery/look', { body: { q: word.value } })))
onMounted(async () => {
  await follow(state)
  if (signedIn.value) await look()
})
onUnmounted(() => asked++)
watchDebounced(word, look, { debounce: 250 })
const signIn = async () => {
  await follow(() => of(api.PUT('/api/gallery/token', { body: { token: token.value } })))
  if (signedIn.value) token.value = ''
}
const signOut = () =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/gallery/token'))
    await follow(state)
  })

const fetchOne = (one: Package) =>
  toast.attempt(async () => {
    const task = await of(
      api.POST('/api/libraries/{library}/gallery', { ...library.path(), body: { id: one.id, title: one.title } }),
    )
    fetching.value[one.id] = task.id
    const ended = await work.follow(task)
    delete fetching.value[one.id]
    if (ended.state === 'done' && ended.import) await router.replace({ query: { import: ended.import } })
  })
const doing = (id: string) => work.tasks.find((task) => task.id === fetching.value[id])
</script>

<template>
  <section aria-label="External gallery">
    <div class="line head">
      <h1>External gallery</h1>
      <span class="soft">Packages published outside the studio.</span><span class="grow" /><el-input
        v-if="signedIn"
        v-model="word"
        placeholder="Search packages"
        aria-label="Search packages"
        clearable
        class="look"
      /><button v-if="signedIn" class="plain" @click="signOut">Sign out of the gallery</button>
    </div>
    <form v-if="signedIn === false" class="signin" @submit.prevent="signIn">
      <p>The gallery needs an access token. It’s stored with your account and shown to nobody.</p>
      <div class="line">
        <el-input
          v-model="token"
          type="password"
          show-password
          aria-label="Token of the gallery"
          placeholder="Token"
        /><el-button type="primary" native-type="submit" :disabled="!token.trim() || busy"
          >Sign in to the gallery</el-button
        >
      </div>
    </form>
    <p v-if="problem" class="problem" role="alert">
      {{ problem }} <button v-if="signedIn" class="plain" @click="look">Try again</button>
    </p>
    <p v-else-if="busy && !packages.length" class="soft" role="status">Asking the gallery…</p>
    <p v-else-if="signedIn && !packages.length" class="soft">
      {{ word ? 'No matches.' : 'The gallery is empty.' }}
    </p>
    <article v-for="one in packages" :key="one.id">
      <div>
        <b>{{ one.title }}</b> <span class="soft">by {{ one.author }}, {{ sized(one.size) }}</span>
        <p>{{ one.description }}</p>
        <span class="soft small">{{ one.tags.join(' · ') }}</span>
      </div>
      <div v-if="fetching[one.id]" class="going" role="status">
        <el-progress :percentage="doing(one.id) ? work.part(doing(one.id)!) : 0" /><span class="soft small">{{
          doing(one.id)?.message
        }}</span>
      </div>
      <el-button v-else :aria-label="`Import ${one.title}`" @click="fetchOne(one)">Import</el-button>
    </article>
  </section>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
.look {
  width: 220px;
}
.signin {
  max-width: 460px;
}
.problem {
  color: var(--madder);
  background: var(--madder-wash);
  padding: 9px 12px;
  border-radius: 7px;
}
article {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 20px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}
article p {
  margin: 2px 0;
}
.going {
  width: 220px;
}
</style>
