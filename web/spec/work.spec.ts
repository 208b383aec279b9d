import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

const { answers, get } = vi.hoisted(() => ({ answers: [] as object[][], get: vi.fn() }))
vi.mock('../src/api/client', () => ({
  api: { GET: get },
  of: (answer: Promise<unknown>) => answer,
  awaited: new Set<number>([77]),
  onBegun: () => undefined,
  useToken: () => undefined,
  Refused: class extends Error {},
}))
vi.mock('../src/stores/library', () => ({
  useLibrary: () => ({
    path: () => ({ params: { path: { library: 1 } } }),
    load: vi.fn().mockResolvedValue(undefined),
  }),
}))
vi.mock('../src/stores/session', async () => {
  const { reactive } = await import('vue')
  const session = reactive({ libraryId: 1, mayEdit: true })
  return { useSession: () => session }
})
import { useToast } from '../src/stores/toast'
import { useWork, type Task } from '../src/stores/work'

const task = (more: Partial<Task>): Task => ({
  id: 1,
  kind: 'ReadImport',
  state: 'working',
  done: 3,
  total: 12,
  message: 'Reading kit.zip',
  before: 0,
  at: '',
  ...more,
})

describe('long work', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    setActivePinia(createPinia())
    answers.length = 0
    get
      .mockReset()
      .mockImplementation(() => Promise.resolve({ tasks: answers.length > 1 ? answers.shift() : (answers[0] ?? []) }))
  })
  afterEach(() => vi.useRealTimers())

  it('does not tell of what somebody in this page waits for', async () => {
    const work = useWork()
    await vi.advanceTimersByTimeAsync(0)
    answers.push([task({ id: 77 })], [task({ id: 77, state: 'done', message: 'Renamed.' })])
    work.look()
    await vi.advanceTimersByTimeAsync(3000)
    expect([work.open.length, useToast().newest?.text]).toEqual([0, undefined])
  })

  it('is looked at until it ends, and says so', async () => {
    const work = useWork()
    await vi.advanceTimersByTimeAsync(0)
    answers.push([task({})], [task({ done: 9 })], [task({ state: 'done', message: 'Read.' })])
    const ended = work.follow(task({ state: 'waiting' }))
    await vi.advanceTimersByTimeAsync(0)
    expect([work.open.length, work.part(work.open[0]!)]).toEqual([1, 25])
    await vi.advanceTimersByTimeAsync(2000)
    expect((await ended).state).toBe('done')
    expect([work.open.length, useToast().newest?.text]).toEqual([0, 'Read.'])
    const asked = get.mock.calls.length
    await vi.advanceTimersByTimeAsync(5000)
    expect(get.mock.calls.length).toBeLessThanOrEqual(asked + 1)
  })

  it('tells of what came in by itself, once, and not of what was over before the page was opened', async () => {
    answers.push(
      [task({ state: 'done', message: 'Old.' })],
      [task({ state: 'done', message: 'Old.' }), task({ id: 2, state: 'done', message: '“sheet.png” is read.' })],
    )
    const work = useWork()
    await vi.advanceTimersByTimeAsync(100)
    expect([work.tasks.length, useToast().newest?.text]).toEqual([1, undefined])
    await vi.advanceTimersByTimeAsync(5000)
    expect(useToast().newest?.text).toBe('“sheet.png” is read.')
    useToast().hide(useToast().newest!.id)
    await vi.advanceTimersByTimeAsync(5000)
    expect(useToast().newest?.text).toBeUndefined()
  })

  it('tells what went wrong in the server’s own words', async () => {
    answers.push([task({ state: 'failed', message: 'The gallery did not answer. Try again later.' })])
    const work = useWork()
    const ended = work.follow(task({}))
    await vi.advanceTimersByTimeAsync(1500)
    expect((await ended).state).toBe('failed')
    expect([useToast().newest?.kind, useToast().newest?.text]).toEqual([
      'problem',
      'The gallery did not answer. Try again later.',
    ])
  })

  it('goes on asking when an answer is lost', async () => {
    answers.push([task({ state: 'done', message: 'Done.' })])
    get.mockRejectedValueOnce(new Error('away')).mockRejectedValueOnce(new Error('away'))
    const work = useWork()
    const ended = work.follow(task({}))
    await vi.advanceTimersByTimeAsync(3000)
    expect((await ended).message).toBe('Done.')
  })

  it('is a part of nothing while its size is not known', () => {
    expect([useWork().part(task({ total: 0 })), useWork().part(task({ done: 99, total: 3 }))]).toEqual([0, 100])
  })
})
