import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

vi.mock('../src/routes', () => ({ router: { currentRoute: { value: { name: 'brushes' } }, push: vi.fn() }, views: [] }))
import { router } from '../src/routes'
import { useArrival } from '../src/stores/arrival'
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
    router.currentRoute.value.name = 'wall'
  })

  it('makes a tip of one still picture, and an import of everything else', async () => {
    const arrival = useArrival()
    await arrival.take([file('scan.PNG')])
    expect([arrival.pictures[0]?.name, arrival.parcel, vi.mocked(router.push).mock.calls[0]![0]]).toEqual([
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
      await arrival.take(list)
      expect(arrival.parcel).toEqual(list)
      expect(vi.mocked(router.push).mock.lastCall![0]).toEqual({ name: 'import', params: { library: 5 } })
    }
  })

  it('takes pictures of every kind where marks are made of them, and there only pictures', async () => {
    router.currentRoute.value.name = 'tip-maker'
    const arrival = useArrival()
    await arrival.take([file('a.png'), file('leaf.svg'), file('layers.ora'), file('reel.gif')])
    expect(arrival.pictures.map(({ name }) => name)).toEqual(['a.png', 'leaf.svg', 'layers.ora', 'reel.gif'])
    expect(vi.mocked(router.push)).not.toHaveBeenCalled()
    await arrival.take([file('a.png'), file('kit.zip')])
    expect(arrival.parcel?.length).toBe(2)
  })

  it('takes even one picture for an import where imports are looked at', async () => {
    router.currentRoute.value.name = 'import'
    const arrival = useArrival()
    await arrival.take([file('scan.png')])
    expect(arrival.parcel?.length).toBe(1)
  })

  it('opens folders to their ends, whatever is hidden left out', async () => {
    const inside = folder('/kit', [
      [entry('/kit/a.png'), entry('/kit/.hidden')],
      [folder('/kit/more', [[entry('/kit/more/b.png')]])],
    ])
    const brought = await useArrival().brought(transfer([inside, entry('/c.json')]))
    expect(brought.map(({ name }) => name)).toEqual(['kit/a.png', 'kit/more/b.png', 'c.json'])
  })

  it('takes plain files where a browser hands over no entries', async () => {
    const brought = await useArrival().brought(transfer([null], [new File(['x'], 'a.png')]))
    expect(brought.map(({ name }) => name)).toEqual(['a.png'])
  })
})
