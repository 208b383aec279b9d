import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

vi.mock('../src/routes', () => ({ router: { currentRoute: { value: { name: 'brushes' } }, push: vi.fn() }, views: [] }))
import { router } from '../src/routes'
import { useImport } from '../src/stores/import'
import { useSession } from '../src/stores/session'

const file = (name: string) => ({ name, file: new File(['x'], name) })
const entry = (path: string) => ({
  isFile: true,
  name: path.split('/').at(-1),
  fullPath: path,
  file: (done: (file: File) => void) => done(new File(['x'], path)),
})
/** A folder as a browser hands it over: read a part at a time until nothing more comes. */
const folder = (path: string, parts: object[][]) => ({
  isFile: false,
  name: path,
  fullPath: path,
  createReader: () => ({ readEntries: (done: (list: object[]) => void) => done(parts.shift() ?? []) }),
})
const transfer = (entries: (object | null)[], files: File[] = []) =>
  ({ items: entries.map((one) => ({ webkitGetAsEntry: () => one })), files }) as unknown as DataTransfer

describe('what is dropped', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    // The address may have none yet, in the moment after signing in.
    useSession().libraryId = 5
    vi.mocked(router.push).mockClear()
    router.currentRoute.value.name = 'brushes'
  })

  it('makes a tip of one still picture, and an import of everything else', async () => {
    const incoming = useImport()
    await incoming.take([file('scan.PNG')])
    expect([incoming.pictures[0]?.name, incoming.parcel, vi.mocked(router.push).mock.calls[0]![0]]).toEqual([
      'scan.PNG',
      undefined,
      { name: 'tip-maker', params: { library: 5 } },
    ])
    for (const list of [
      [file('a.png'), file('b.png')],
      [file('kit.fobrel.zip')],
      [file('reel.gif')],
      [file('layers.ora')],
      [file('brush.json')],
    ]) {
      await incoming.take(list)
      expect(incoming.parcel).toEqual(list)
      expect(vi.mocked(router.push).mock.lastCall![0]).toEqual({ name: 'import', params: { library: 5 } })
    }
  })

  it('takes pictures of every kind where marks are made of them, and there only pictures', async () => {
    router.currentRoute.value.name = 'tip-maker'
    const incoming = useImport()
    await incoming.take([file('a.png'), file('leaf.svg'), file('layers.ora'), file('reel.gif')])
    expect(incoming.pictures.map(({ name }) => name)).toEqual(['a.png', 'leaf.svg', 'layers.ora', 'reel.gif'])
    expect(vi.mocked(router.push)).not.toHaveBeenCalled()
    await incoming.take([file('a.png'), file('kit.zip')])
    expect(incoming.parcel?.length).toBe(2)
  })

  it('takes even one picture for an import where imports are looked at', async () => {
    router.currentRoute.value.name = 'import'
    const incoming = useImport()
    await incoming.take([file('scan.png')])
    expect(incoming.parcel?.length).toBe(1)
  })

  it('opens folders to their ends, whatever is hidden left out', async () => {
    const inside = folder('/kit', [
      [entry('/kit/a.png'), entry('/kit/.hidden')],
      [folder('/kit/more', [[entry('/kit/more/b.png')]])],
    ])
    const brought = await useImport().brought(transfer([inside, entry('/c.json')]))
    expect(brought.map(({ name }) => name)).toEqual(['kit/a.png', 'kit/more/b.png', 'c.json'])
  })

  it('takes plain files where a browser hands over no entries', async () => {
    const brought = await useImport().brought(transfer([null], [new File(['x'], 'a.png')]))
    expect(brought.map(({ name }) => name)).toEqual(['a.png'])
  })
})
