import { useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import { api, of } from '../api/client'
import { signedOut } from '../api/connection'
import type { components } from '../api/schema'
import { useSession } from './session'

type Inbox = components['schemas']['Inbox']
/** Asked now and then, besides being told. */
export const EVERY = 60_000

/** What concerns whoever is signed in. */
export const useInbox = defineStore('inbox', () => {
  const session = useSession()
  const notices = ref<Inbox['notices']>([])
  const kinds = ref<Inbox['kinds']>([])
  const unseen = ref(0)

  async function load() {
    const got = await of(api.GET('/api/inbox'))
    notices.value = got.notices
    kinds.value = got.kinds
    unseen.value = got.unseen
  }
  async function see(upTo: number) {
    await of(api.POST('/api/inbox/seen', { body: { up_to: upTo } }))
    unseen.value = 0
  }
  /** Without a word where the server does not answer. */
  const look = () => session.person && !signedOut.value && load().catch(() => undefined)
  useIntervalFn(look, EVERY)
  watch(
    () => session.person?.id,
    () => {
      notices.value = []
      unseen.value = 0
      void look()
    },
    { immediate: true },
  )

  return { notices, kinds, unseen, load, see, look }
})
