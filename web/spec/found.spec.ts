import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { api } from '../src/api/client'
import { useLibrary } from '../src/stores/library'
import { useFound } from '../src/views/brushes/useFound'

type Asked = { q: string; offset: number; answer: (total: number) => void; fail: () => void }
let asked: Asked[] = []
let scope: EffectScope

const row = (q: string, id: number) => ({ id, name: `${q} ${id}` })
beforeEach(() => {
  setActivePinia(createPinia())
  asked = []
  scope = effectScope()
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined })
  vi.spyOn(api, 'GET').mockImplementation(
    ((_path: string, { params }: { params: { query: { q: string; offset: number } } }) =>
      new Promise((resolve) => {
        const { q, offset } = params.query
        asked.push({
          q,
          offset,
          answer: (total) =>
            resolve({
              data: {
                total,
                tolerant: false,
                query: q,
                terms: [],
                offset,
                presets: Array.from({ length: Math.min(100, total - offset) }, (_, i) => row(q, offset + i)),
              },
              response: new Response(),
            }),
          fail: () => resolve({ error: { error: 'There is no such term.' }, response: new Response() }),
        })
      })) as never,
  )
})
afterEach(() => {
  scope.stop()
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
})

const settle = async () => {
  for (let i = 0; i < 8; i++) await nextTick()
}

describe('what Brushes found', () => {
  it('is read a page at a time, each page once', async () => {
    const found = scope.run(() => useFound(() => ({ q: 'fog', order: 'name' })))!
    asked[0]!.answer(950)
    await settle()
    expect([found.total.value, found.rows.size]).toEqual([950, 100])
    found.see(250, 310)
    found.see(260, 320)
    expect(asked.map(({ offset }) => offset)).toEqual([0, 200, 300])
    asked[1]!.answer(950)
    await settle()
    expect([found.rows.get(250)?.name, found.rows.has(310)]).toEqual(['fog 250', false])
  })

  it('never shows a row of an older question, whichever answer comes last', async () => {
    const q = ref('fog')
    const found = scope.run(() => useFound(() => ({ q: q.value, order: 'name' })))!
    asked[0]!.answer(3)
    await settle()
    expect(found.rows.size).toBe(3)
    q.value = 'rope'
    await nextTick()
    expect([found.rows.size, found.total.value]).toEqual([0, undefined])
    q.value = 'kelp'
    await nextTick()
    asked[2]!.answer(2)
    await settle()
    asked[1]!.answer(9)
    await settle()
    expect([[...found.rows.values()].map(({ name }) => name), found.total.value]).toEqual([['kelp 0', 'kelp 1'], 2])
  })

  it('keeps its rows until new ones are there when something was changed', async () => {
    const found = scope.run(() => useFound(() => ({ q: '', order: 'name' })))!
    asked[0]!.answer(5)
    await settle()
    useLibrary().stamp++
    await nextTick()
    expect(found.rows.size).toBe(5)
    asked[1]!.answer(4)
    await settle()
    expect([found.rows.size, found.total.value]).toEqual([4, 4])
  })

  it('says what was unclear, and goes on', async () => {
    const q = ref('colour: red')
    const found = scope.run(() => useFound(() => ({ q: q.value, order: 'name' })))!
    asked[0]!.fail()
    await settle()
    expect(found.problem.value).toBe('There is no such term.')
    q.value = 'red'
    await nextTick()
    asked[1]!.answer(1)
    await settle()
    expect([found.problem.value, found.total.value]).toEqual(['', 1])
  })
})
