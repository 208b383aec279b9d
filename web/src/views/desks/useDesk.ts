import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { turns } from '../../parts/newest'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'

export type DeskDetail = components['schemas']['DeskDetail']
export type PlanLine = components['schemas']['NamedLine']
export type Effect = components['schemas']['PlanEffect']
export type Part = PlanLine['part']
type Keys = Record<string, string | null>

/** A line that the server has not told of yet. */
export const fresh = (thing: string, title: string, part: Part): PlanLine => ({
  ...{ thing, title, part, section: null, at: null, replaces: null, at_title: null, newest: null, pin: null },
  ...{ problem: null, from: null, change: null, brushes: [] },
})
/** What of a line is kept. */
const bare = ({ thing, part, section, at, replaces }: PlanLine) => ({ thing, part, section, at, replaces })

/** A desk or a template: its plan as it is changed, and what lies in its folder. */
function useDesk(id: () => number | undefined) {
  const library = useLibrary()
  const session = useSession()
  const toast = useToast()
  const desk = shallowRef<DeskDetail>()
  const lines = shallowRef<PlanLine[]>([])
  const busy = ref('')
  const missing = ref(false)
  const at = () => ({ params: { path: { id: id()! } } })
  const fixed = computed(() => !session.maySend)

  const turn = turns()
  function take(got: DeskDetail) {
    if (got.id !== id()) return
    desk.value = got
    if (!pending) lines.value = got.lines
  }
  async function load() {
    const mine = turn()
    if (!id()) return (desk.value = undefined)
    missing.value = false
    await toast.attempt(async () => {
      const got = await of(api.GET('/api/desks/{id}', at()))
      if (mine()) take(got)
    })
    missing.value = mine() && desk.value?.id !== id()
    return undefined
  }
  watch([id, () => library.stamp, () => toast.undone], load, { immediate: true })

  // --- changes of the plan go one after the other, each brought to what others did meanwhile --------
  let pending = 0
  let queue = Promise.resolve()
  /** What a change of a template would do to the desks below, while somebody is asked. */
  const asked = shallowRef<{ effects: Effect[]; go: () => void; leave: () => void }>()
  async function agreed(body: Body) {
    if (!desk.value?.template) return true
    const params = { ...at().params, query: { plan: true } }
    const { effects } = await of(api.PUT('/api/desks/{id}/plan', { params, body }))
    if (!effects?.length) return true
    return new Promise<boolean>((resolve) => {
      asked.value = { effects, go: () => resolve(true), leave: () => resolve(false) }
    }).finally(() => (asked.value = undefined))
  }
  type Body = { lines?: ReturnType<typeof bare>[]; before?: ReturnType<typeof bare>[]; keys?: Keys; revert?: string[] }
  function change(wanted: PlanLine[] | undefined, keys: Keys = {}, revert: string[] = []) {
    const before = lines.value.map(bare)
    const mine = at()
    const of_ = id()
    if (wanted) lines.value = wanted
    const body: Body = { keys, revert, ...(wanted ? { lines: wanted.map(bare), before } : {}) }
    pending++
    queue = queue.then(async () => {
      await toast.attempt(async () => {
        if (!(await agreed(body))) return
        const got = await of(api.PUT('/api/desks/{id}/plan', { ...mine, body }))
        if (of_ === id() && got.desk) desk.value = got.desk
        if (got.entry) toast.done(`${got.entry.summary}. Send it to apply it.`, got.entry)
      })
      pending--
      if (pending || of_ !== id()) return
      lines.value = desk.value?.lines ?? []
      await load()
    })
    return queue
  }
  const setKey = (brush: string, key: string | null) => change(undefined, { [brush]: key })
  const alter = (thing: string, more: Partial<PlanLine>) =>
    change(lines.value.map((one) => (one.thing === thing ? { ...one, ...more } : one)))
  /** As the template has it. */
  const revert = (thing: string) => change(undefined, {}, [thing])
  const takeOut = (thing: string) => change(lines.value.filter((one) => one.thing !== thing))
  /** To the end of a part: what stands there already is left. */
  function add(things: { thing: string; title: string }[], part: Part) {
    const there = new Set(lines.value.map(({ thing }) => thing))
    const news = things.filter(({ thing }) => !there.has(thing))
    if (!news.length) return toast.done('All of these are in the plan already.')
    const made = news.map(({ thing, title }) => fresh(thing, title, part))
    const startup = [...of_part('startup'), ...(part === 'startup' ? made : [])]
    return change([...startup, ...of_part('shelf'), ...(part === 'shelf' ? made : [])])
  }
  const of_part = (part: Part) => lines.value.filter((one) => one.part === part)

  /** A deed on the desk that answers with how it is then. */
  async function doing(what: string, deed: () => Promise<DeskDetail>, said?: (got: DeskDetail) => string) {
    busy.value = what
    const well = await toast.attempt(async () => {
      const got = await deed()
      take(got)
      if (said) toast.done(said(got))
      await library.load()
    })
    busy.value = ''
    return well
  }

  return {
    ...{
      desk,
      lines,
      busy,
      missing,
      fixed,
      asked,
      at,
      load,
      take,
      change,
      setKey,
      alter,
      revert,
      takeOut,
      add,
      of_part,
      doing,
    },
    ...{ library, session, toast },
  }
}

export type AtDesk = ReturnType<typeof useDesk>
const KEY: InjectionKey<AtDesk> = Symbol('desk')
/** Puts a desk in the middle of the view. */
export const sitDown = (id: () => number | undefined) => {
  const at = useDesk(id)
  provide(KEY, at)
  return at
}
/** The desk that is looked at. */
export const atDesk = () => inject(KEY)!
