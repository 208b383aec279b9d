import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, shallowRef, type EffectScope } from 'vue'
import { api } from '../src/api/client'
import { stable } from '../src/parts/stable'
import { useCurves } from '../src/parts/useCurves'

type Points = [number, number][]
let scope: EffectScope
let asked: Points[][] = []
const settle = async () => {
  for (let i = 0; i < 8; i++) await nextTick()
}

beforeEach(() => {
  scope = effectScope()
  asked = []
  vi.spyOn(api, 'POST').mockImplementation(((_path: string, { body }: { body: { curves: Points[] } }) => {
    asked.push(body.curves)
    return Promise.resolve({ data: { curves: body.curves.map(() => [0, 0.25, 1]) }, response: new Response() })
  }) as never)
})
afterEach(() => {
  scope.stop()
  vi.restoreAllMocks()
})

describe('curves', () => {
  it('come from the server, each asked for once, and are drawn upwards', async () => {
    const wanted = shallowRef<Points[]>([
      [
        [0, 0],
        [1, 0.9],
      ],
    ])
    const { path } = scope.run(() => useCurves(() => wanted.value))!
    await settle()
    expect(path(wanted.value[0]!, 100, 40)).toBe('M0.0 40.0L50.0 30.0L100.0 0.0')
    const other: Points = [
      [0, 0.1],
      [1, 1],
    ]
    wanted.value = [wanted.value[0]!, other, other]
    await settle()
    expect(asked).toEqual([
      [
        [
          [0, 0],
          [1, 0.9],
        ],
      ],
      [other],
    ])
  })

  it('draw nothing until they are there', () => {
    const { path } = scope.run(() =>
      useCurves(() => [
        [
          [0, 0.5],
          [1, 0.5],
        ],
      ]),
    )!
    expect(
      path(
        [
          [0, 0.5],
          [1, 0.5],
        ],
        10,
        10,
      ),
    ).toBe('')
  })
})

describe('a stable value', () => {
  it('stays the same object while its content does', () => {
    const source = shallowRef({ a: [1, 2], b: 1 })
    const list = scope.run(() => stable(() => source.value.a.map((one) => ({ one }))))!
    const before = list.value
    source.value = { a: [1, 2], b: 2 }
    expect(list.value).toBe(before)
    source.value = { a: [1, 3], b: 2 }
    expect(list.value).toEqual([{ one: 1 }, { one: 3 }])
  })
})
