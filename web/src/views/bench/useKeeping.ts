import { useDebounceFn, useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, ref, watch, type Ref, type ShallowRef } from 'vue'
import { api, of, Refused, type Detail, type Document } from '../../api/client'
import type { paths } from '../../api/schema'
import { useLive } from '../../stores/live'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useUnsent, type Change } from '../../stores/unsent'
import { same } from './settings'

export type Kept = paths['/api/presets/{id}/draft']['put']['responses']['200']['content']['application/json']
/** Changes of the same thing this soon after each other are one step. */
const ONE_GESTURE = 1000
const TRY_AGAIN = 4000

/**
 * Keeps what is tuned the moment it happens: in the browser at once, at the server a moment later, one change
 * after the other. What another window or another person changed meanwhile comes back with the answer.
 */
export function useKeeping(id: number, detail: Ref<Detail | undefined>, document: ShallowRef<Document | undefined>) {
  const session = useSession()
  const toast = useToast()
  const unsent = useUnsent()
  const at = { params: { path: { id } } }
  const state = ref<'kept' | 'keeping' | 'not saved'>('kept')
  const room = computed(() => detail.value?.room ?? { back: 0, forth: 0 })

  /** What the server has, as far as this window knows. */
  let known: Document | undefined
  const changes: Change[] = []
  let underWay: Change | undefined
  let sending: Promise<void> = Promise.resolve()
  let last = { what: '', at: 0 }

  const idle = () => !changes.length && !underWay

  function store() {
    const waiting = underWay ? [underWay, ...changes] : changes
    if (waiting.length && known) unsent.put(id, { was: known, changes: waiting })
    else unsent.drop(id)
  }

  function tell({ merged, given_up, held }: Kept) {
    if (held.length) return toast.problem(new Error(held.join(' ')), true)
    if (!merged.length) return
    const gave = given_up.length ? ` Your change here replaced: ${given_up.join(', ')}. Undo restores it.` : ''
    toast.done(`Merged with changes from another window: ${merged.join(', ')}.${gave}`)
  }

  /** Takes over what is at the server now, unless something newer waits here. */
  function accept(kept: Kept, sent?: Document) {
    tell(kept)
    if (detail.value) {
      const { draft, kept: print, room, sheet } = kept
      detail.value = { ...detail.value, draft, kept: print, room, sheet }
    }
    if (changes.length) return (known = sent ?? known)
    known = kept.document
    if (!same(document.value, kept.document)) document.value = kept.document
  }

  async function send() {
    while (changes.length) {
      const change = changes.shift()!
      underWay = change
      const { document: next, fresh } = change
      try {
        const kept = await of(
          api.PUT('/api/presets/{id}/draft', { ...at, body: { document: next, was: known, fresh }, keepalive: true }),
        )
        underWay = undefined
        accept(kept, next)
        state.value = changes.length ? 'keeping' : 'kept'
        store()
      } catch (error) {
        const refused = error instanceof Refused && error.status > 0
        toast.problem(error)
        // What was refused does not hold up what came after it; alone it stays in sight.
        const given = refused && changes.length > 0
        if (!given) changes.unshift(change)
        underWay = undefined
        store()
        if (given) continue
        state.value = 'not saved'
        if (!refused) setTimeout(keep, TRY_AGAIN)
        return
      }
    }
  }
  // One after the other, so that an older state never lands on a newer one.
  const keep = () => (sending = sending.then(send))
  const keepSoon = useDebounceFn(keep, 250, { maxWait: 600 })

  /** @param what names the thing that is being changed: going on with it is no step of its own */
  function tune(next: Document, what = '') {
    if (!session.mayEdit || same(next, document.value)) return
    const now = performance.now()
    const fresh = !what || what !== last.what || now - last.at > ONE_GESTURE
    last = { what, at: now }
    document.value = next
    if (fresh || !changes.length) changes.push({ document: next, fresh })
    else changes[changes.length - 1] = { document: next, fresh: changes.at(-1)!.fresh }
    state.value = 'keeping'
    store()
    keepSoon()
  }

  /** A step back or forth; what was tuned last is kept first, so that it is a step too. */
  function step(go: 'back' | 'forth') {
    keep()
    return (sending = sending.then(async () => {
      if (!session.mayEdit || changes.length || !room.value[go]) return
      last = { what: '', at: 0 }
      await toast.attempt(async () => accept(await of(api.POST('/api/presets/{id}/steps', { ...at, body: { go } }))))
    }))
  }

  /** What was read from the server is what changes are made on from now on. */
  function began(at: Document) {
    known = at
    if (idle()) state.value = 'kept'
  }

  useEventListener(window, 'pagehide', keep)
  useEventListener(window, 'online', keep)
  useEventListener(window, 'focus', () => changes.length && keep())

  return { state, room, idle, tune, keep, step, began }
}

/**
 * Looks every few seconds, and when the window is come back to, whether what is shown is still so.
 *
 * @param deeds counts what is begun and ended in this window
 */
export function useLook(
  id: number,
  detail: Ref<Detail | undefined>,
  idle: () => boolean,
  deeds: () => number,
  changed: (words: string) => Promise<unknown>,
) {
  let looking = false
  /** Who else has it on the Bench. */
  const others = ref<string[]>([])
  const live = useLive()
  watch(
    () => live.versions,
    ({ presets }) => presets.includes(id) && look(),
  )

  async function look() {
    if (looking || !detail.value || !idle() || globalThis.document.hidden) return
    looking = true
    const before = deeds()
    try {
      const now = await of(
        api.GET('/api/presets/{id}/state', { params: { path: { id } }, signal: AbortSignal.timeout(10_000) }),
      )
      others.value = now.others
      const { preset, locked_by, kept, hidden } = detail.value
      // What was done here meanwhile is told by whoever did it.
      if (!idle() || deeds() !== before) return
      const told = [
        now.version !== preset.version && `${now.by ?? 'Somebody'} saved version ${now.version}.`,
        now.name !== preset.name && `Renamed to “${now.name}”.`,
        now.baseline !== preset.baseline && `Version ${now.baseline} is now the baseline.`,
        now.locked_by !== locked_by && (now.locked_by ? `${now.locked_by} locked it.` : 'No longer locked.'),
        now.hidden !== hidden && (now.hidden ? 'Now hidden.' : 'Restored.'),
      ].filter(Boolean)
      const elsewhere = now.kept !== kept && !told.length ? 'Updated from another of your windows.' : ''
      if (told.length || elsewhere) await changed([...told, elsewhere].join(' ').trim())
    } catch {
      // The next look may go better.
    } finally {
      looking = false
    }
  }

  useIntervalFn(look, 3000)
  useEventListener(window, 'focus', look)
  return { look, others }
}
