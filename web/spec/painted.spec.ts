import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, shallowRef, type EffectScope } from 'vue'
import { api, type Document } from '../src/api/client'
import { usePainted } from '../src/parts/usePainted'

type Asked = { size: number; answer: (ok?: boolean) => void }
let asked: Asked[] = []
let scope: EffectScope

beforeEach(() => {
  asked = []
  scope = effectScope()
  vi.spyOn(api, 'POST').mockImplementation(
    ((_path: string, { body }: { body: { document: Document } }) =>
      new Promise((resolve) => {
        asked.push({
          size: body.document.size,
          answer: (ok = true) =>
            resolve(
              ok
                ? { data: new Blob([String(body.document.size)]), response: new Response() }
                : { error: { error: 'It cannot be painted.' }, response: new Response() },
            ),
        })
      })) as never,
  )
})
afterEach(() => {
  scope.stop()
  vi.restoreAllMocks()
})

const settle = async () => {
  for (let i = 0; i < 8; i++) await nextTick()
}
const start = (document: ReturnType<typeof shallowRef<Document | undefined>>) =>
  scope.run(() =>
    usePainted(
      () => 1,
      () => document.value && { document: document.value },
    ),
  )!

describe('what is painted while it changes', () => {
  it('asks for one picture at a time, and next for the newest state only', async () => {
    const document = shallowRef<Document | undefined>({ size: 1 })
    const { src } = start(document)
    for (const size of [2, 3, 4]) {
      document.value = { size }
      await nextTick()
    }
    expect(asked.map(({ size }) => size)).toEqual([1])
    asked[0]!.answer()
    await settle()
    expect(asked.map(({ size }) => size)).toEqual([1, 4])
    const first = src.value
    asked[1]!.answer()
    await settle()
    expect([first.startsWith('blob:'), src.value.startsWith('blob:'), src.value === first]).toEqual([true, true, false])
    expect(asked.length).toBe(2)
  })

  it('keeps the last picture and says why when one cannot be painted, then goes on', async () => {
    const document = shallowRef<Document | undefined>({ size: 1 })
    const { src, problem } = start(document)
    asked[0]!.answer()
    await settle()
    const before = src.value
    document.value = { size: 2 }
    await nextTick()
    asked[1]!.answer(false)
    await settle()
    expect([problem.value, src.value]).toEqual(['It cannot be painted.', before])
    document.value = { size: 3 }
    await nextTick()
    asked[2]!.answer()
    await settle()
    expect(problem.value).toBe('')
  })

  it('waits for a document', async () => {
    const document = shallowRef<Document | undefined>()
    start(document)
    await settle()
    expect(asked.length).toBe(0)
    document.value = { size: 5 }
    await settle()
    expect(asked.map(({ size }) => size)).toEqual([5])
  })
})
