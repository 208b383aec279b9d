import { describe, expect, it } from 'vitest'
import type { Preset } from '../src/api/client'
import { found } from '../src/views/wall/found'

const preset = (id: number, name: string, more: Partial<Preset> = {}): Preset => ({
  id, name, document_id: '', fingerprint: '', edition: 1, home: 1, altered: false, draft: false, favourite: false, locked: false, size: 10, traits: [], tag_ids: [], ...more,
})
const all = [preset(1, 'Harbour fog', { tag_ids: [7] }), preset(2, 'Fog über Kap', { draft: true }), preset(3, 'Quay line', { tag_ids: [7], altered: true })]
const ids = (wanted: Parameters<typeof found>[1]) => found(all, wanted).map(({ id }) => id)

describe('found', () => {
  it('finds every word of the name, whatever its case or accents', () => {
    expect([ids({}), ids({ words: 'FOG' }), ids({ words: 'uber fog' }), ids({ words: 'fog quay' })]).toEqual([[1, 2, 3], [1, 2], [2], []])
  })

  it('narrows by tag, by set in its own order, and to what changed', () => {
    expect([ids({ tag: 7 }), ids({ set: [3, 1, 99] }), ids({ changed: true }), ids({ tag: 7, set: [3, 2] })]).toEqual([[1, 3], [3, 1], [2, 3], [3]])
  })

  it('leaves the list it was given in its order', () => {
    found(all, { set: [3, 1] })
    expect(all.map(({ id }) => id)).toEqual([1, 2, 3])
  })
})
