import { useEventListener, useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import { changesItself, signedOut } from '../api/connection'
import { EVERY, useInbox } from './inbox'
import { useLibrary } from './library'
import { useSession } from './session'

interface Heard {
  what: 'library' | 'version' | 'talk' | 'inbox'
  by?: number
  presets?: number[]
}
/** The first piece of news is asked for at once, and further ones at most so often, however much is done elsewhere. */
const PAUSE = 1_500
/** What is done in one go tells of itself more than once. */
const AT_ONCE = 60

/**
 * Hears what others do in this library while the page is open. Where nothing can be heard, what is asked now and
 * then goes on as it does anyhow.
 */
export const useLive = defineStore('live', () => {
  const session = useSession()
  const library = useLibrary()
  const inbox = useInbox()
  /** The brushes whose version came last, told once each time. */
  const versions = ref<{ presets: number[] }>({ presets: [] })
  let source: EventSource | undefined
  let waiting: ReturnType<typeof setTimeout> | undefined

  let read = -PAUSE
  function readAnew() {
    const rest = read + PAUSE - performance.now()
    waiting ??= setTimeout(
      () => {
        waiting = undefined
        read = performance.now()
        if (session.person && !signedOut.value) library.load().catch(() => undefined)
      },
      Math.max(rest, AT_ONCE),
    )
  }
  function hear({ what, by, presets }: Heard) {
    if (what === 'inbox') void inbox.look()
    if (what === 'talk') library.talked++
    if (what !== 'library' && what !== 'version') return
    // What one does oneself is told, and read, by the window that does it; another of the same person hears it.
    if (by === session.person?.id && changesItself()) return
    if (what === 'version') versions.value = { presets: presets ?? [] }
    readAnew()
  }
  function askAnew() {
    void inbox.look()
    readAnew()
  }
  function stop() {
    source?.close()
    source = undefined
    clearTimeout(waiting)
    waiting = undefined
  }
  function listen() {
    stop()
    const id = session.libraryId
    const nobody = !session.person || !id || signedOut.value
    if (nobody || document.hidden || typeof EventSource === 'undefined') return
    let missed = false
    source = new EventSource(`/api/libraries/${id}/live`)
    // The browser comes again by itself; what was told meanwhile is asked for.
    source.onerror = () => (missed = true)
    source.onopen = () => {
      // It may have ended because what one may see has become another: that is asked for first.
      if (missed)
        void session
          .load()
          .catch(() => undefined)
          .then(askAnew)
      missed = false
    }
    source.onmessage = ({ data }) => hear(JSON.parse(data) as Heard)
  }
  watch(() => [session.person?.id, session.libraryId, signedOut.value], listen, { immediate: true })
  // A browser keeps six connections to one place (HTTP/1.1), so only pages that are looked at hold one; one that is
  // come back to asks what it may have missed.
  useEventListener(document, 'visibilitychange', () => {
    if (document.hidden) return stop()
    listen()
    askAnew()
  })
  // Where nothing can be told, as behind a line that lets no stream through, the page asks now and then.
  useIntervalFn(() => source && source.readyState !== EventSource.OPEN && readAnew(), EVERY)
  useEventListener(window, 'pagehide', stop)
  useEventListener(window, 'pageshow', ({ persisted }) => persisted && listen())

  return { versions, stop }
})
