import { useEventListener } from '@vueuse/core'
import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, asFile, of, Refused } from '../../api/client'
import type { components } from '../../api/schema'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

type Schemas = components['schemas']
export type Work = Schemas['WorkDetail']
export type State = Schemas['WorkSettings']
export type Frame = Schemas['Frame']
export type Area = Schemas['Area']
export type Looked = Schemas['Looked']
export type Making = Schemas['Making']
export type Words = { text?: Schemas['TextMade']; figure?: Schemas['FigureMade'] }

const KEY: InjectionKey<TipWork> = Symbol('tip work')
/** A change of the same control goes on with the step before for so long, ms. */
const GOES_ON = 1200

/**
 * The piece of work in the tip maker: what is on the screen is kept at the server at once, step by step, and one
 * change after the other.
 */
function makeTipWork() {
  const library = useLibrary()
  const toast = useToast()
  const route = useRoute()
  const router = useRouter()
  const work = shallowRef<Work>()
  const making = shallowRef<Making>()
  const reading = ref(0)
  const page = ref(0)
  const at = ref(0)
  const state = computed(() => work.value?.state)
  const sheet = computed(() => work.value?.sheets[page.value])
  const frames = computed(() => state.value?.frames ?? [])
  const path = () => ({ params: { path: { id: work.value!.id } } })

  // --- keeping: the newest state goes out, and what came back is shown unless a newer one waits ---
  let pending: { state: State; fresh: boolean } | undefined
  let sending: Promise<void> | undefined
  let last = { key: '', time: 0 }

  const refused = (error: unknown) => error instanceof Refused && error.status >= 400 && error.status < 500
  /** What is not kept yet waits in this tab, through a reload in the middle of a drag. */
  const waiting = () => `fobrel.work.${work.value?.id}`
  function takeUp() {
    const left = sessionStorage.getItem(waiting())
    if (!left) return
    const { step, state } = JSON.parse(left) as { step: number; state: State }
    sessionStorage.removeItem(waiting())
    // The request that was under way may have been kept.
    if (work.value && work.value.step - step <= 1) change(state)
  }
  async function send() {
    while (pending && work.value) {
      const { state, fresh } = pending
      pending = undefined
      try {
        const body = { state, fresh, step: work.value.step }
        const got = await of(api.PUT('/api/works/{id}', { ...path(), body }))
        if (!pending) sessionStorage.removeItem(waiting())
        show(pending ? { ...got, state: (pending as { state: State }).state } : got)
      } catch (error) {
        pending = undefined
        toast.problem(error)
        // What was refused is shown as it is kept; what got no answer waits here, for the next change.
        if (refused(error)) {
          sessionStorage.removeItem(waiting())
          await open(work.value.id)
        }
      }
    }
    sending = undefined
  }
  const kept = async () => {
    while (sending) await sending
  }
  /** What a form has not sent yet is sent first, such as a text that is still being typed. */
  const flushes = new Set<() => void>()
  let bringing: Promise<unknown> = Promise.resolve()
  async function settled() {
    flushes.forEach((flush) => flush())
    await bringing
    await kept()
  }

  /** Whether a change goes on with the one before it, of the same control, so that both are one step. */
  function goesOn(key: string) {
    const now = Date.now()
    const same = !!key && key === last.key && now - last.time <= GOES_ON
    last = { key, time: now }
    return same
  }
  /** Changes what is done; `key` names the control, so that a drag is one step. */
  function change(parts: Partial<State>, key = '') {
    if (!work.value) return
    const fresh = !goesOn(key)
    const next = { ...work.value.state, ...parts }
    work.value = { ...work.value, state: next }
    pending = { state: next, fresh: fresh || !!pending?.fresh }
    sessionStorage.setItem(waiting(), JSON.stringify({ step: work.value.step, state: next }))
    sending ??= send()
  }
  type Group = 'tone' | 'form' | 'find' | 'reel' | 'grain'
  const set = <G extends Group>(group: G, parts: Partial<NonNullable<State[G]>>, key = '') =>
    change({ [group]: { ...state.value![group], ...parts } }, key && `${group}.${key}`)

  function show(next: Work) {
    work.value = next
    page.value = Math.min(page.value, next.sheets.length - 1)
    at.value = Math.max(0, Math.min(at.value, (next.state.frames?.length ?? 0) - 1))
  }

  // --- which piece of work ------------------------------------------------------------------------
  async function open(id: number) {
    try {
      show(await of(api.GET('/api/works/{id}', { params: { path: { id } } })))
      takeUp()
    } catch (error) {
      toast.problem(error)
      if (refused(error)) leave()
    }
  }
  const leave = () => router.replace({ query: {} })
  watch(
    () => Number(route.query.work) || undefined,
    async (id) => {
      await settled()
      if (!id) work.value = undefined
      else if (work.value?.id !== id) {
        page.value = at.value = 0
        await open(id)
      }
    },
    { immediate: true },
  )
  async function begun(next: Work) {
    const added = work.value?.id === next.id && next.sheets.length > work.value.sheets.length
    if (work.value?.id !== next.id) page.value = at.value = 0
    show(next)
    if (added) page.value = next.sheets.length - 1
    if (Number(route.query.work) !== next.id) await router.push({ query: { work: next.id } })
  }

  /** Pictures from a drop, the clipboard or the disk: a new piece of work, or further pages of the one that is open. */
  const bring = (files: File[], more = false) => (bringing = bringing.then(() => bringNow(files, more)))
  async function bringNow(files: File[], more: boolean) {
    let into = more ? work.value?.id : undefined
    reading.value += files.length
    for (const file of files) {
      await toast.attempt(async () => {
        await kept()
        const query = { file: file.name, ...(into ? { work: into } : {}) }
        const asked = { params: { ...library.path().params, query }, ...asFile(file) }
        const got = await of(api.POST('/api/libraries/{library}/works', asked))
        into = got.id
        await begun(got)
      })
      reading.value--
    }
  }
  /** A text, a figure or a part; at a place, it takes that page's. */
  function make(words: Words, place?: number) {
    const fresh = !goesOn(`made.${place}`)
    return (bringing = bringing.then(() => makeNow(words, place, fresh)))
  }
  async function makeNow(words: Words, place: number | undefined, fresh: boolean) {
    reading.value++
    await toast.attempt(async () => {
      await kept()
      const here = place === undefined ? {} : { work: work.value!.id, page: place, fresh }
      const asked = { ...library.path(), body: { ...words, ...here } }
      await begun(await of(api.POST('/api/libraries/{library}/works/made', asked)))
    })
    reading.value--
  }
  const step = (go: 'back' | 'forth') =>
    toast.attempt(async () => {
      await settled()
      last = { key: '', time: 0 }
      show(await of(api.POST('/api/works/{id}/step', { ...path(), body: { go } })))
    })
  const rename = (name: string) =>
    toast.attempt(async () => {
      await settled()
      show(await of(api.PUT('/api/works/{id}', { ...path(), body: { name } })))
    })

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    if (!work.value || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
    if (target.matches('input:not([type=range]), textarea')) return
    event.preventDefault()
    step(event.shiftKey ? 'forth' : 'back')
  })

  toast.attempt(async () => (making.value = await of(api.GET('/api/tip-maker'))))

  // --- marks and frames ---------------------------------------------------------------------------
  // Found marks are known by their parts; what was drawn by hand, by its place.
  const known = ({ marks, box, ...rest }: Area) => JSON.stringify(marks ? { marks, ...rest } : { box, ...rest })
  const same = (one: Area, other: Area) => known(one) === known(other)
  const indexOf = (area: Area) => frames.value.findIndex((frame) => frame.page === page.value && same(frame.area, area))
  const setFrames = (next: Frame[]) => change({ frames: next })
  function toggle(area: Area) {
    const index = indexOf(area)
    if (index >= 0) return setFrames(frames.value.filter((_, one) => one !== index))
    setFrames([...frames.value, { page: page.value, area }])
    at.value = frames.value.length - 1
  }
  const add = (areas: Area[]) => {
    const fresh = areas.filter((area) => indexOf(area) < 0)
    setFrames([...frames.value, ...fresh.map((area) => ({ page: page.value, area }))])
  }
  const turnFrame = (index: number, parts: Partial<Frame>) =>
    setFrames(frames.value.map((frame, one) => (one === index ? { ...frame, ...parts } : frame)))

  return {
    library,
    toast,
    work,
    making,
    reading,
    page,
    at,
    state,
    sheet,
    frames,
    path,
    settled,
    flushes,
    change,
    set,
    bring,
    make,
    step,
    rename,
    leave,
    indexOf,
    setFrames,
    toggle,
    add,
    turnFrame,
  }
}

export type TipWork = ReturnType<typeof makeTipWork>

export function provideTipWork() {
  const made = makeTipWork()
  provide(KEY, made)
  return made
}
export const onTipWork = () => inject(KEY)!
