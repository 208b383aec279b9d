import { layUnderPad } from './onPad'
import { useLocalStorage } from '@vueuse/core'
import { ElMessageBox } from 'element-plus'
import { computed, inject, onBeforeUnmount, provide, reactive, ref, shallowRef, watch, type InjectionKey } from 'vue'
import { onBeforeRouteLeave, useRouter } from 'vue-router'
import { api, of, type Detail, type Document, type Entry, Refused } from '../../api/client'
import { offline } from '../../api/connection'
import { turns } from '../../parts/newest'
import type { Place } from '../../parts/paintedPlace'
import { stable } from '../../parts/stable'
import type { Ask, Try } from '../../parts/usePainted'
import { rememberBrush } from '../../stores/lastBrush'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { answerOf, groups, inOrder, same, valueAt, withValue, type Answer } from './settings'
import { useKeeping, useLook } from './useKeeping'

export type Back = 'baseline' | 'current' | 'received'
export interface Trying {
  sample: string
  ground: NonNullable<Try['ground']> | ''
  colour: string
  size?: number
  adjustments: boolean
  zoom: number
}
export const USUAL: Trying = { sample: 'swell', ground: '', colour: '#1d2026', adjustments: false, zoom: 1 }

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
  const back = ref<Back>('baseline')
  // How strokes are tried: the same for every brush, until changed.
  const trying = useLocalStorage<Trying>('fobrel.try', USUAL)
  /** The place in the middle of all zoomed strips. */
  const middle = reactive<Place>({ x: 0.5, y: 0.5 })

  watch(
    () => !!detail.value,
    (found) => found && rememberBrush(session.libraryId!, id),
  )

  const keeping = useKeeping(id, detail, document)
  const { tune, keep } = keeping

  /** The version that one's own change stands on. */
  const base = computed(() => detail.value?.draft?.base_document ?? detail.value?.document)
  const dirty = computed(() => !!document.value && !same(document.value, detail.value?.document))
  /** Whether somebody saved a version after the one that the draft stands on. */
  const overtaken = computed(() => !!detail.value?.draft && detail.value.draft.base !== detail.value.preset.version)

  /** The server's list belongs to what it kept last; what the brush has no more by now is not shown. */
  const list = stable(() =>
    (detail.value?.sheet.settings ?? []).filter(({ path }) => valueAt(document.value!, path) !== undefined),
  )
  const grouped = computed(() =>
    groups()
      .map((group) => ({ ...group, list: list.value.filter((one) => one.group === group.name) }))
      .filter((group) => group.list.length || group.name === 'grain'),
  )

  // --- ways back -----------------------------------------------------------------------------
  /** The settings that a way back leads to. */
  const goal = computed<Document>(() => {
    const { baseline_document, received_document } = detail.value!
    return { baseline: baseline_document, received: received_document, current: base.value! }[back.value]
  })
  const differs = (path: string[]) => !same(valueAt(document.value!, path), valueAt(goal.value, path))
  /** Cells of the response grid that differ from where a way back leads. */
  const moved = stable(() => {
    const answers = [document.value, goal.value].flatMap((one) => (one?.response as Answer[] | undefined) ?? [])
    const cells = new Map(answers.map(({ drives, by }) => [`${drives}|${by}`, [drives, by] as const]))
    return [...cells]
      .filter(([, cell]) => !same(answerOf(document.value!, ...cell), answerOf(goal.value, ...cell)))
      .map(([key]) => key)
  })
  const differsAt = (drives: string, by: string) => moved.value.includes(`${drives}|${by}`)
  const counts = stable(() => {
    const of: Record<string, number> = { response: moved.value.length }
    for (const one of list.value) if (differs(one.path)) of[one.group] = (of[one.group] ?? 0) + 1
    return of
  })

  // --- trying --------------------------------------------------------------------------------
  const asTry = computed<Try>(() => {
    const { sample, ground, colour, size, adjustments } = trying.value
    return {
      sample,
      colour,
      ...(ground ? { ground } : {}),
      ...(size ? { size } : {}),
      ...(adjustments ? { adjustments } : {}),
    }
  })
  const ask = (one: Document | undefined): Ask | undefined => one && { document: one, try: asTry.value }

  // --- reading and changing ------------------------------------------------------------------
  const turn = turns()
  function take(got: Detail) {
    detail.value = got
    // What was tuned since is made on what was there before.
    if (!keeping.idle()) return
    const kept = got.draft?.document ?? got.document
    keeping.began(kept)
    if (!same(document.value, kept)) document.value = kept
  }
  /** Why there is no brush here. */
  const missing = ref('')
  const read = async () => {
    const mine = turn()
    const got = await of(api.GET('/api/presets/{id}', at))
    // A brush is never shown under another library's name.
    if (got.library !== session.libraryId)
      return void router.replace({ name: 'bench', params: { library: got.library, id } })
    if (mine() && keeping.idle()) take(got)
  }
  const load = () =>
    toast.attempt(async () => {
      try {
        await read()
      } catch (error) {
        if (detail.value || !(error instanceof Refused)) throw error
        missing.value = error.message
      }
    })
  let deeds = 0
  const { look, others } = useLook(
    id,
    detail,
    // What is being done here is told by whoever does it.
    () => keeping.idle() && !toast.recording && !busy.value,
    () => deeds + library.stamp,
    async (words) => {
      await read()
      toast.done(words)
    },
  )

  const set = (path: string[], value: unknown) =>
    document.value && tune(inOrder(withValue(document.value, path, value), path), path.join('.'))
  const takeBack = (path: string[]) => set(path, valueAt(goal.value, path))

  // Without a connection nothing holds anybody up: what is not kept yet waits in the browser.
  onBeforeRouteLeave(async () => {
    if (!offline.value) await Promise.race([keep(), new Promise((done) => setTimeout(done, 2000))])
  })
  onBeforeUnmount(() => library.load().catch(() => undefined))

  /** A deed that needs what was tuned to be kept first; what went wrong is thrown. */
  async function doing<T>(deed: () => Promise<T>): Promise<T> {
    busy.value = true
    deeds++
    try {
      await keep()
      return await deed()
    } finally {
      deeds++
      busy.value = false
    }
  }

  /** What a part of the page does by itself, such as renaming: kept first, and not told as somebody else's. */
  const before = () => {
    deeds++
    return keep()
  }

  /** A deed with an entry in the history: done, read anew, told with its undo. */
  const entered = (deed: () => Promise<{ entry: Entry }>) =>
    toast.attempt(() =>
      doing(async () => {
        const { entry } = await deed()
        await read()
        await library.load()
        toast.done(entry.summary, entry)
      }),
    )

  /** Brushes and versions shown beside this one. */
  const pinned = ref<{ key: string; title: string; note: string; document: Document }[]>([])
  const pin = (preset: number, version?: number) =>
    toast.attempt(async () => {
      const other = await of(api.GET('/api/presets/{id}', { params: { path: { id: preset } } }))
      const number = version ?? other.preset.version
      const { document: one } = await of(
        api.GET('/api/presets/{id}/versions/{number}', { params: { path: { id: preset, number } } }),
      )
      const key = `${preset}.${number}`
      pinned.value = [
        ...pinned.value.filter((pin) => pin.key !== key),
        { key, title: other.preset.name, note: `version ${number}`, document: one },
      ]
    })

  const favourite = () =>
    toast.attempt(async () => {
      const on = !detail.value!.preset.favourite
      detail.value!.preset.favourite = (
        await of(api.PUT('/api/presets/{id}/favourite', { ...at, body: { on } }))
      ).favourite
    })

  /** Counts changes to this person's own sample strokes. */
  const strokesChanged = ref(0)
  async function removeStroke(sample: number, title: string) {
    const words = { confirmButtonText: 'Delete', cancelButtonText: 'Keep' }
    const asked = ElMessageBox.confirm(
      'Only you have it, and it can’t be restored.',
      `Remove the sample stroke “${title}”?`,
      words,
    )
    if (!(await asked.catch(() => false))) return
    await toast.attempt(async () => {
      await of(api.DELETE('/api/sample-strokes/{id}', { params: { path: { id: sample } } }))
      strokesChanged.value++
    })
  }

  // An undo told in the toast changes what lies on the Bench.
  watch(
    () => toast.undone,
    () => load(),
  )

  load()
  // Among what this person used last; nothing is lost if that fails.
  watch(detail, () => api.PUT('/api/presets/{id}/recent', at).catch(() => undefined), { once: true })
  return {
    missing,
    id,
    at,
    detail,
    document,
    base,
    busy,
    kept: keeping.state,
    room: keeping.room,
    overtaken,
    others,
    back,
    goal,
    trying,
    middle,
    asTry,
    ask,
    dirty,
    list,
    grouped,
    counts,
    differs,
    differsAt,
    take,
    load,
    look,
    tune,
    set,
    takeBack,
    keep,
    before,
    step: keeping.step,
    doing,
    entered,
    pinned,
    pin,
    favourite,
    strokesChanged,
    removeStroke,
    router,
    library,
    session,
    toast,
  }
}

export type Bench = ReturnType<typeof useBench>
const KEY: InjectionKey<Bench> = Symbol('bench')
/** Puts a brush on the Bench, for all parts of it. */
export const layOut = (id: number) => {
  const bench = useBench(id)
  provide(KEY, bench)
  layUnderPad(bench)
  return bench
}
/** The brush on the Bench. */
export const onBench = () => inject(KEY)!
