// @vitest-environment jsdom
import { createPinia, disposePinia, setActivePinia, type Pinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api } from '../src/api/client'
import * as connection from '../src/api/connection'
import { useLibrary } from '../src/stores/library'
import { useLive } from '../src/stores/live'
import { useSession } from '../src/stores/session'

class Source {
  static open: Source[] = []
  onmessage?: (event: { data: string }) => void
  constructor(readonly url: string) {
    Source.open.push(this)
  }
  close() {
    Source.open = Source.open.filter((one) => one !== this)
  }
}

const state = {
  csrf: 'x',
  begins: false,
  person: { id: 7, name: 'Maren', login: 'maren', owner: false },
  libraries: [
    { id: 1, name: 'One', kind: 'project', role: 'lead', canvas: { width: 9, height: 9 }, archived: false, own: false },
  ],
}
const hear = (data: object) => Source.open[0]!.onmessage!({ data: JSON.stringify(data) })

let pinia: Pinia
beforeEach(() => {
  vi.useFakeTimers()
  Source.open = []
  vi.stubGlobal('EventSource', Source)
  vi.spyOn(api, 'GET').mockImplementation((async (path: string) => ({
    data: path === '/api/session' ? state : { notices: [], kinds: [], unseen: 0 },
    response: new Response(),
  })) as unknown as typeof api.GET)
  pinia = createPinia()
  setActivePinia(pinia)
})
afterEach(() => {
  disposePinia(pinia)
  vi.useRealTimers()
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
})

async function signedIn() {
  await useSession().load()
  const live = useLive()
  await nextTick()
  return live
}

describe('news', () => {
  it('are heard for the library that is looked at, by one connection', async () => {
    await signedIn()
    expect(Source.open.map(({ url }) => url)).toEqual(['/api/libraries/1/live'])
  })

  it('of oneself in another window are heard', async () => {
    await signedIn()
    const load = vi.spyOn(useLibrary(), 'load').mockResolvedValue(undefined)
    hear({ what: 'library', by: 7 })
    await vi.advanceTimersByTimeAsync(3000)
    expect(load.mock.calls.length).toBe(1)
  })

  it('of oneself here change nothing; of others lists are read anew once, however many come', async () => {
    const live = await signedIn()
    const load = vi.spyOn(useLibrary(), 'load').mockResolvedValue(undefined)
    const own = vi.spyOn(connection, 'changesItself').mockReturnValue(true)
    hear({ what: 'version', by: 7, presets: [3] })
    await vi.advanceTimersByTimeAsync(3000)
    own.mockRestore()
    expect([live.versions.presets, load.mock.calls.length]).toEqual([[], 0])
    hear({ what: 'version', by: 8, presets: [3] })
    hear({ what: 'library', by: 8 })
    await vi.advanceTimersByTimeAsync(3000)
    expect([live.versions.presets, load.mock.calls.length]).toEqual([[3], 1])
  })

  it('are not listened for by a page that is left, and again by one that is come back to', async () => {
    await signedIn()
    window.dispatchEvent(new Event('pagehide'))
    expect(Source.open).toEqual([])
    window.dispatchEvent(Object.assign(new Event('pageshow'), { persisted: true }))
    expect(Source.open.length).toBe(1)
    Object.defineProperty(document, 'hidden', { value: true, configurable: true })
    document.dispatchEvent(new Event('visibilitychange'))
    expect(Source.open).toEqual([])
    Object.defineProperty(document, 'hidden', { value: false, configurable: true })
    document.dispatchEvent(new Event('visibilitychange'))
    expect(Source.open.length).toBe(1)
  })
})
