import { useDebounceFn, useEventListener, useLocalStorage } from '@vueuse/core'
import { ElMessageBox } from 'element-plus'
import { computed, inject, onBeforeUnmount, provide, ref, shallowRef, watch, type InjectionKey } from 'vue'
import { onBeforeRouteLeave, useRouter } from 'vue-router'
import { api, of, type Detail, type Document, type Entry } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { stable } from '../../parts/stable'
import type { Ask, Try } from '../../parts/usePainted'
import { groups, same, settings, valueAt, withValue, answerOf, type Answer } from './settings'

export type Back = 'home' | 'current' | 'received'

/** One brush on the Bench: its settings as they stand, kept as this person's draft the moment they change. */
export function useBench(id: number) {
  const router = useRouter()
  const library = useLibrary()
  const session = useSession()
  const toast = useToast()
  const at = { params: { path: { id } } }
  const detail = ref<Detail>()
  const document = shallowRef<Document>()
  const busy = ref(false)
  const kept = ref<'kept' | 'keeping' | 'not kept'>('kept')
  const back = ref<Back>('home')
  // How strokes are tried: the same for every brush, until changed.
  const trying = useLocalStorage<{ trial: string; ground: string; colour: string; size?: number; hand: boolean; zoom: number }>('fobrel.try', { trial: 'swell', ground: '', colour: '#1d2026', hand: false, zoom: 1 })

  const dirty = computed(() => !!document.value && !same(document.value, detail.value?.document))
  const list = stable(() => (document.value ? settings(document.value) : []))
  const grouped = computed(() => groups().map((group) => ({ ...group, list: list.value.filter((one) => one.group === group.name) })).filter((group) => group.list.length || group.name === 'surface'))
  /** The settings that a way back leads to. */
  const goal = computed<Document>(() => (back.value === 'home' ? detail.value!.home_document : back.value === 'received' ? detail.value!.received_document : detail.value!.document))
  const differs = (path: string[]) => !same(valueAt(document.value!, path), valueAt(goal.value, path))
  /** Cells of the response grid that differ from where a way back leads. */
  const moved = stable(() => {
    const cells = new Set([document.value, goal.value].flatMap((one) => (one?.response as Answer[] | undefined ?? []).map(({ drives, by }) => `${drives}|${by}`)))
    return [...cells].filter((cell) => { const [drives, by] = cell.split('|') as [string, string]; return !same(answerOf(document.value!, drives, by), answerOf(goal.value, drives, by)) })
  })
  const differsAt = (drives: string, by: string) => moved.value.includes(`${drives}|${by}`)
  const counts = stable(() => {
    const of: Record<string, number> = { response: moved.value.length }
    for (const one of list.value) if (differs(one.path)) of[one.group] = (of[one.group] ?? 0) + 1
    return of
  })

  const asTry = computed<Try>(() => {
    const { trial, ground, colour, size, hand } = trying.value
    return { trial, colour, ...(ground ? { ground } : {}), ...(size ? { size } : {}), ...(hand ? { hand } : {}) }
  })
  const ask = (one: Document | undefined, beside = 0): Ask | undefined => one && { document: one, beside, try: asTry.value }

  function take(got: Detail) {
    detail.value = got
    document.value = got.draft?.document ?? got.document
    kept.value = 'kept'
  }
  const load = () => toast.attempt(async () => take(await of(api.GET('/api/presets/{id}', at))))

  // --- a change is kept the moment it happens ---------------------------------------------
  let waiting: Document | undefined
  let sending: Promise<void> = Promise.resolve()

  async function send() {
    const next = waiting
    if (!next) return
    waiting = undefined
    try {
      await of(api.PUT('/api/presets/{id}/draft', { ...at, body: { document: next }, keepalive: true }))
      kept.value = waiting ? 'keeping' : 'kept'
    } catch (error) {
      waiting ??= next
      kept.value = 'not kept'
      toast.problem(error)
    }
  }
  // One after the other, so that an older state never lands on a newer one.
  const keep = () => (sending = sending.then(send))
  const keepSoon = useDebounceFn(keep, 300, { maxWait: 700 })

  function tune(next: Document) {
    if (!session.mayEdit) return
    document.value = next
    waiting = next
    kept.value = 'keeping'
    keepSoon()
  }
  const set = (path: string[], value: unknown) => document.value && tune(withValue(document.value, path, value))
  const takeBack = (path: string[]) => set(path, valueAt(goal.value, path))

  useEventListener(window, 'pagehide', keep)
  onBeforeRouteLeave(async () => { await keep() })
  onBeforeUnmount(() => library.load().catch(() => undefined))

  /** A deed that needs what was tuned to be kept first. */
  async function doing(deed: () => Promise<void>) {
    busy.value = true
    await keep()
    const well = await toast.attempt(deed)
    busy.value = false
    return well
  }

  /** A deed with an entry in the ledger: done, read anew, told with its undo. */
  const entered = (deed: () => Promise<{ entry: Entry }>) => doing(async () => {
    const { entry } = await deed()
    take(await of(api.GET('/api/presets/{id}', at)))
    await library.load()
    toast.done(entry.summary, entry)
  })

  /** Brushes and editions shown beside this one. */
  const pinned = ref<{ key: string; title: string; note: string; document: Document }[]>([])
  const pin = (preset: number, edition?: number) => toast.attempt(async () => {
    const other = await of(api.GET('/api/presets/{id}', { params: { path: { id: preset } } }))
    const number = edition ?? other.preset.edition
    const { document: one } = await of(api.GET('/api/presets/{id}/editions/{number}', { params: { path: { id: preset, number } } }))
    const key = `${preset}.${number}`
    pinned.value = [...pinned.value.filter((pin) => pin.key !== key), { key, title: other.preset.name, note: `edition ${number}`, document: one }]
  })

  const favourite = () => toast.attempt(async () => {
    detail.value!.preset.favourite = (await of(api.PUT('/api/presets/{id}/favourite', { ...at, body: { on: !detail.value!.preset.favourite } }))).favourite
  })

  /** Counts changes to this person's own trial strokes. */
  const trialsChanged = ref(0)
  async function removeTrial(trial: number, title: string) {
    const sure = await ElMessageBox.confirm('It is yours alone and cannot be brought back.', `Remove the trial stroke “${title}”?`, { confirmButtonText: 'Remove it', cancelButtonText: 'Keep it' }).catch(() => false)
    if (!sure) return
    await toast.attempt(async () => {
      await of(api.DELETE('/api/trial-strokes/{id}', { params: { path: { id: trial } } }))
      trialsChanged.value++
    })
  }

  // An undo told in the toast changes what lies on the Bench.
  watch(() => toast.undone, () => load())

  load()
  // Among what this person used last; nothing is lost if that fails.
  api.PUT('/api/presets/{id}/recent', at).catch(() => undefined)
  return { id, at, detail, document, busy, kept, back, goal, trying, asTry, ask, dirty, list, grouped, counts, differs, differsAt, take, load, tune, set, takeBack, keep, doing, entered, pinned, pin, favourite, trialsChanged, removeTrial, router, library, session, toast }
}

export type Bench = ReturnType<typeof useBench>
const KEY: InjectionKey<Bench> = Symbol('bench')
/** Puts a brush on the Bench, for all parts of it. */
export const layOut = (id: number) => { const bench = useBench(id); provide(KEY, bench); return bench }
/** The brush on the Bench. */
export const onBench = () => inject(KEY)!
