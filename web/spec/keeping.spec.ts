import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, shallowRef, type EffectScope } from 'vue'
import { api, type Detail, type Document } from '../src/api/client'
import { useSession } from '../src/stores/session'
import { useToast } from '../src/stores/toast'
import { useUnsent } from '../src/stores/unsent'
import { useKeeping } from '../src/views/bench/useKeeping'

type Put = { document: Document; was: Document; fresh: boolean }
let asked: { body: Put; answer: (kept?: object) => void; refuse: (status: number) => void; lose: () => void }[] = []
let scope: EffectScope
let store: Map<string, string>
const brush = (size: number): Document => ({ name: 'Fog', size })
const kept = (document: Document, more = {}) => ({
  draft: null,
  document,
  kept: 'x',
  merged: [],
  given_up: [],
  held: [],
  room: { back: 1, forth: 0 },
  ...more,
})

beforeEach(async () => {
  vi.useFakeTimers()
  asked = []
  store = new Map()
  const storage = () => ({
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => store.set(key, value),
    removeItem: (key: string) => store.delete(key),
  })
  vi.stubGlobal(
    'localStorage',
    new Proxy(storage(), {
      ownKeys: () => [...store.keys()],
      getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
    }),
  )
  vi.stubGlobal('sessionStorage', storage())
  vi.stubGlobal('window', Object.assign(new EventTarget(), { document: { hidden: false } }))
  setActivePinia(createPinia())
  vi.spyOn(api, 'GET').mockResolvedValue({
    data: {
      csrf: 't',
      person: { id: 1, name: 'Maren', login: 'maren' },
      libraries: [{ id: 7, name: 'Storm', role: 'lead' }],
    },
    response: new Response(),
  } as never)
  await useSession().load()
  vi.spyOn(api, 'PUT').mockImplementation(
    ((_path: string, { body }: { body: Put }) =>
      new Promise((resolve, reject) =>
        asked.push({
          body,
          answer: (more = {}) => resolve({ data: kept(body.document, more), response: new Response() }),
          refuse: (status) => resolve({ error: { error: 'Not possible.' }, response: new Response(null, { status }) }),
          lose: () => reject(new TypeError('gone')),
        }),
      )) as never,
  )
})
afterEach(() => {
  scope.stop()
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

function start() {
  scope = effectScope()
  const detail = ref({ room: { back: 0, forth: 0 }, draft: null, kept: '' } as unknown as Detail)
  const document = shallowRef<Document | undefined>(brush(10))
  const keeping = scope.run(() => useKeeping(5, detail, document))!
  keeping.began(brush(10))
  return { ...keeping, document, detail }
}
const pass = async (ms = 800) => {
  await vi.advanceTimersByTimeAsync(ms)
  await nextTick()
}
const waiting = () =>
  [...store]
    .filter(([key]) => key.includes('unsent'))
    .flatMap(([, text]) =>
      (JSON.parse(text) as { changes: { document: Document }[] }).changes.map(
        ({ document }) => document.size as number,
      ),
    )

describe('what is tuned', () => {
  it('is kept as one step while a slider is dragged, and as another for another thing', async () => {
    const { tune } = start()
    for (const size of [11, 12, 13]) tune(brush(size), 'size')
    tune({ ...brush(13), flow: 1 }, 'flow')
    await pass()
    expect(asked.map(({ body }) => [body.document.size, body.fresh, body.was.size])).toEqual([[13, true, 10]])
    asked[0]!.answer()
    await pass(0)
    expect(asked[1]!.body).toMatchObject({ document: { flow: 1 }, fresh: true, was: { size: 13 } })
  })

  it('goes on with its step after it was kept, and is a step of its own after a rest', async () => {
    const { tune } = start()
    tune(brush(11), 'size')
    await pass(300)
    asked[0]!.answer()
    await pass(0)
    tune(brush(12), 'size')
    await pass(300)
    asked[1]!.answer()
    await pass(2000)
    tune(brush(13), 'size')
    await pass(300)
    expect(asked.map(({ body }) => body.fresh)).toEqual([true, false, true])
  })

  it('takes over what another window changed, but never over what is newer here', async () => {
    const { tune, document } = start()
    tune(brush(11), 'size')
    await pass()
    tune(brush(12), 'size')
    asked[0]!.answer({ document: { ...brush(11), flow: 3 }, merged: ['Flow 1 → 3'] })
    await pass()
    expect([document.value!.size, asked[1]!.body.was]).toEqual([12, brush(11)])
    asked[1]!.answer({ document: { ...brush(12), flow: 3 }, merged: ['Flow 1 → 3'] })
    await pass(0)
    expect(document.value).toEqual({ ...brush(12), flow: 3 })
    expect(useToast().newest?.text).toMatch(/from another window: Flow 1 → 3/)
  })

  it('waits in the browser while there is no connection, and is tried again by itself', async () => {
    const { tune, state } = start()
    tune(brush(11), 'size')
    expect(waiting()).toEqual([11])
    await pass()
    asked[0]!.lose()
    await pass(100)
    expect([state.value, waiting()]).toEqual(['not saved', [11]])
    await pass(4100)
    asked[1]!.answer()
    await pass(0)
    expect([state.value, waiting()]).toEqual(['kept', []])
  })

  it('is not held up by one thing that was refused', async () => {
    const { tune } = start()
    tune(brush(11), 'size')
    await pass()
    tune(brush(12), 'flow')
    asked[0]!.refuse(422)
    await pass()
    expect(asked[1]!.body.document.size).toBe(12)
    asked[1]!.answer()
    await pass(0)
    expect(waiting()).toEqual([])
  })

  it('is kept from before a reload, of this window at once, of others when they are gone', async () => {
    start()
    const unsent = useUnsent()
    unsent.put(9, {
      was: brush(1),
      changes: [
        { document: brush(2), fresh: true },
        { document: brush(3), fresh: false },
      ],
    })
    store.set(
      'fobrel.unsent.1.8.elsewhere',
      JSON.stringify({ was: brush(1), changes: [{ document: brush(4), fresh: true }], at: Date.now() }),
    )
    store.set(
      'fobrel.unsent.1.7.gone',
      JSON.stringify({ was: brush(1), changes: [{ document: brush(5), fresh: true }], at: Date.now() - 600_000 }),
    )
    store.set('fobrel.unsent.2.6.somebody', JSON.stringify({ was: brush(1), changes: [], at: 0 }))
    const all = unsent.keepAll()
    for (const index of [0, 1, 2]) {
      await vi.waitFor(() => expect(asked[index]).toBeDefined())
      asked[index]!.answer()
    }
    await all
    expect(asked.map(({ body }) => body.document.size)).toEqual([2, 3, 5])
    expect(asked[1]!.body.was.size).toBe(2)
    expect([...store.keys()].filter((key) => key.includes('unsent')).sort()).toEqual([
      'fobrel.unsent.1.8.elsewhere',
      'fobrel.unsent.2.6.somebody',
    ])
  })
})
