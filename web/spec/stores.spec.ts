import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api, type Entry } from '../src/api/client'
import { useLibrary } from '../src/stores/library'
import { useSession } from '../src/stores/session'
import { useToast } from '../src/stores/toast'
import { useTray } from '../src/stores/tray'

let posted: { path: string; body: { preset_ids?: number[] } }[] = []
let gone = new Set<number>()
const settle = async () => {
  for (let i = 0; i < 12; i++) await nextTick()
}
const ok = (data: unknown) => Promise.resolve({ data, response: new Response() })
const entry = (id: number, undoable = true) =>
  ({ id, kind: 'tag', summary: 'Tagged 2', by: 'Maren', at: '', undone: false, undoable }) as Entry

beforeEach(() => {
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  })
  setActivePinia(createPinia())
  posted = []
  gone = new Set()
  vi.spyOn(api, 'POST').mockImplementation(((path: string, { body }: { body: { preset_ids?: number[] } }) => {
    posted.push({ path, body })
    if (path.endsWith('/rows'))
      return ok({ presets: body.preset_ids!.filter((id) => !gone.has(id)).map((id) => ({ id, name: `Brush ${id}` })) })
    if (path.endsWith('/undo')) return ok({ kept: ['“Fog” was saved again since; it stays as it is.'] })
    return ok({ csrf: 't', person: { id: 1, name: 'Maren' }, libraries: [] })
  }) as never)
  vi.spyOn(api, 'GET').mockImplementation(((path: string) =>
    ok(
      path.endsWith('/session')
        ? {
            csrf: 't',
            person: { id: 1, name: 'Maren' },
            libraries: [
              { id: 7, name: 'Storm', role: 'lead', canvas: { width: 1920, height: 1080 } },
              { id: 9, name: 'Second', role: 'guest', canvas: { width: 800, height: 600 } },
            ],
          }
        : path.endsWith('/order')
          ? { categories: [{ id: 3, name: 'Inks', parent_id: null, position: 0 }], labels: [] }
          : path.endsWith('/tags')
            ? { tags: [{ id: 4, name: 'sea', synonyms: [], count: 2 }] }
            : path.endsWith('/facets')
              ? { total: 2, states: [{ key: 'draft', count: 5 }], traits: [] }
              : { sets: [], desks: [] },
    )) as never)
})
afterEach(() => {
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
})

async function signedIn() {
  const session = useSession()
  await session.load()
  const library = useLibrary()
  await library.load()
  return { session, library }
}

describe('the library at hand', () => {
  it('asks for brushes once, all of one moment together', async () => {
    const { library } = await signedIn()
    library.need([1, 2])
    library.need([2, 3])
    await settle()
    library.need([1, 3])
    await settle()
    expect(posted.map(({ body }) => body.preset_ids)).toEqual([[1, 2, 3]])
    expect(library.byId.get(3)?.name).toBe('Brush 3')
  })

  it('knows its categories, tags and counts, and reads known brushes anew', async () => {
    const { library } = await signedIn()
    await library.need([1])
    await settle()
    const before = library.stamp
    await library.load()
    expect([
      library.categoryById.get(3)?.name,
      library.tagById.get(4)?.name,
      library.count('draft'),
      library.count('locked'),
      library.stamp,
    ]).toEqual(['Inks', 'sea', 5, 0, before + 1])
    expect(posted.at(-1)!.body.preset_ids).toEqual([1])
  })
})

describe('who is signed in', () => {
  it('looks at the library looked at last, and may what the role there allows', async () => {
    const { session } = await signedIn()
    expect([session.libraryId, session.mayEdit, session.maySend]).toEqual([7, true, true])
    session.look(9)
    expect([session.library?.name, session.mayEdit, session.maySend]).toEqual(['Second', false, false])
    await session.load()
    expect(session.libraryId).toBe(9)
  })
})

describe('the tray', () => {
  it('keeps what was picked for each library by itself, in order and once', async () => {
    const { session } = await signedIn()
    const tray = useTray()
    tray.add([5, 3, 5])
    tray.toggle(8)
    tray.toggle(3)
    expect([tray.ids, tray.has(8), tray.has(3)]).toEqual([[5, 8], true, false])
    session.look(9)
    expect(tray.ids).toEqual([])
    session.look(7)
    expect(tray.ids).toEqual([5, 8])
    tray.clear()
    expect(tray.ids).toEqual([])
  })

  it('drops what is gone from the library, and shows no more than it can', async () => {
    await signedIn()
    const tray = useTray()
    gone.add(2)
    tray.add(Array.from({ length: 60 }, (_, i) => i + 1))
    await settle()
    expect([tray.ids.includes(2), tray.ids.length, tray.presets.length]).toEqual([false, 59, 40])
  })
})

describe('the line at the foot', () => {
  it('proposals an undo only where there is one, and tells what had to stay', async () => {
    await signedIn()
    const toast = useToast()
    toast.done('Tagged 2', entry(1, false))
    expect([toast.newest?.text, toast.newest?.entry]).toEqual(['Tagged 2', undefined])
    toast.done('Tagged 2', entry(2))
    expect(toast.newest?.entry?.id).toBe(2)
    await toast.undo(toast.newest!.entry!)
    expect([toast.newest?.text, toast.newest?.kind, toast.undone]).toEqual([
      'Undone. “Fog” was saved again since; it stays as it is.',
      'done',
      1,
    ])
  })

  it('shows two messages at most, each with its own undo, and the same words once', () => {
    const toast = useToast()
    const texts = () => toast.messages.map(({ text, entry }) => [text, entry?.id])
    toast.done('Tagged 2', entry(1))
    toast.done('Hidden 1', entry(2))
    expect(texts()).toEqual([
      ['Tagged 2', 1],
      ['Hidden 1', 2],
    ])
    toast.done('Restored 1', entry(3))
    expect(texts().map(([text]) => text)).toEqual(['Hidden 1', 'Restored 1'])
    toast.done('Hidden 1', entry(4))
    expect(texts()).toEqual([
      ['Restored 1', 3],
      ['Hidden 1', 4],
    ])
    toast.hide(toast.messages[0]!.id)
    expect(texts()).toEqual([['Hidden 1', 4]])
  })

  it('tells whether a deed went well, and what went wrong', async () => {
    const toast = useToast()
    expect([await toast.attempt(() => Promise.resolve()), toast.newest?.text]).toEqual([true, undefined])
    expect(await toast.attempt(() => Promise.reject(new Error('odd')))).toBe(false)
    expect([toast.newest?.kind, toast.newest?.text]).toEqual([
      'problem',
      expect.stringContaining('Something went wrong: Error: odd'),
    ])
  })
})
