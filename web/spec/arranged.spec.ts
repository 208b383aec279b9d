import { describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { useArranged, type Arrangement } from '../src/parts/useArranged'
import { useColumns } from '../src/views/brushes/useColumns'

describe('orders made by hand', () => {
  function begin() {
    const asked: { key: number; next: Arrangement; before: number[]; answer: () => void; refuse: () => void }[] = []
    const settle = vi.fn(() => Promise.resolve())
    const arranged = useArranged(
      (key, next, before) =>
        new Promise<void>((answer, fail) =>
          asked.push({ key, next, before, answer, refuse: () => fail(new Error('Somebody changed it.')) }),
        ),
      settle,
    )
    return { asked, settle, arranged }
  }
  const turn = () => new Promise((done) => setTimeout(done))

  it('are sent one after the other, those made meanwhile as one, each on what the server last had', async () => {
    const { asked, settle, arranged } = begin()
    const all = [
      arranged.put(1, [1, 2, 3], { ids: [2, 1, 3] }),
      arranged.put(1, [1, 2, 3], { ids: [2, 3, 1] }),
      arranged.put(1, [1, 2, 3], { ids: [3, 2, 1] }),
    ]
    expect([asked.length, arranged.shown(1)?.ids]).toEqual([1, [3, 2, 1]])
    asked[0]!.answer()
    await turn()
    expect([asked.length, asked[1]!.before, asked[1]!.next.ids]).toEqual([2, [2, 1, 3], [3, 2, 1]])
    expect(settle).not.toHaveBeenCalled()
    asked[1]!.answer()
    await Promise.all(all)
    expect([settle.mock.calls.length, arranged.shown(1)]).toEqual([1, undefined])
  })

  it('that come while the truth is read are carried out too', async () => {
    const { asked, settle, arranged } = begin()
    let read = () => {}
    settle.mockImplementationOnce(() => new Promise<void>((done) => (read = done)))
    const all = [arranged.put(1, [1, 2], { ids: [2, 1] })]
    asked[0]!.answer()
    await turn()
    all.push(arranged.put(1, [1, 2], { ids: [1, 2] }))
    read()
    await turn()
    expect([asked.length, asked[1]!.before, asked[1]!.next.ids]).toEqual([2, [2, 1], [1, 2]])
    asked[1]!.answer()
    await Promise.all(all)
    expect(arranged.shown(1)).toBeUndefined()
  })

  it('of two sets do not wait for each other; sections stay with the order they came with', async () => {
    const { asked, arranged } = begin()
    void arranged.put(1, [1, 2], { ids: [2, 1], sections: { 1: 'A' } })
    void arranged.put(2, [7, 8], { ids: [8, 7] })
    void arranged.put(1, [1, 2], { ids: [1, 2] })
    expect(asked.map(({ key }) => key)).toEqual([1, 2])
    expect(arranged.shown(1)).toEqual({ ids: [1, 2], sections: { 1: 'A' } })
  })

  it('that are refused show what is there, and say so to all who waited', async () => {
    const { asked, settle, arranged } = begin()
    const all = Promise.allSettled([arranged.put(1, [1, 2], { ids: [2, 1] }), arranged.put(1, [1, 2], { ids: [1, 2] })])
    asked[0]!.refuse()
    expect((await all).map(({ status }) => status)).toEqual(['rejected', 'rejected'])
    expect([asked.length, settle.mock.calls.length, arranged.shown(1)]).toEqual([1, 1, undefined])
  })
})

describe('Brushes’s columns', () => {
  const columns = (mode: 'strips' | 'rows' | 'table', height: number, width: number) => {
    const { strip, below, lanes, tall } = useColumns(ref({ mode, height }), ref(width))
    return { strip: strip.value, below: below.value, lanes: lanes.value, tall: tall.value }
  }
  it('fill the room there is', () => {
    expect(columns('strips', 62, 680)).toEqual({ strip: 362, below: false, lanes: 1, tall: 76 })
    expect(columns('strips', 62, 1288).lanes).toBe(2)
    expect(columns('strips', 36, 1600).lanes).toBe(3)
    expect(columns('table', 62, 1600)).toMatchObject({ lanes: 1, tall: 32 })
    expect(columns('rows', 62, 1300)).toMatchObject({ lanes: 2, tall: 36 })
  })
  it('let a strip grow to the width, its words below it then', () => {
    const wide = columns('strips', 400, 700)
    expect([wide.below, wide.lanes]).toEqual([true, 1])
    expect(wide.strip).toBeGreaterThan(650)
    expect(wide.strip).toBeLessThanOrEqual(684)
  })
})
