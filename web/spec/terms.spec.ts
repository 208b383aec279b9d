import { describe, expect, it } from 'vitest'
import { asks, suggestions, termsOf, toggled, without } from '../src/views/wall/terms'

describe('the terms of a search line', () => {
  it('are read, asked for and taken out one by one', () => {
    const line = 'fog; tag: sea, night; not family: washes'
    expect(termsOf(line).map(({ name, values, negated }) => [name, values, negated])).toEqual([
      ['tag', ['sea', 'night'], false],
      ['family', ['washes'], true],
    ])
    expect([asks(line, 'tag', 'SEA'), asks(line, 'tag', 'sky'), asks(line, 'family', 'washes')]).toEqual([
      true,
      false,
      false,
    ])
    expect(without(line, 'tag: sea, night')).toBe('fog; not family: washes')
  })

  it('keep what stands in quotes together', () => {
    expect(termsOf('tag: "a; b"; set: "Act 1, the quay", Kit').map(({ values }) => values)).toEqual([
      ['a; b'],
      ['Act 1, the quay', 'Kit'],
    ])
    expect(toggled('fog', 'set', 'Act 1, the quay')).toBe('fog; set: "Act 1, the quay"')
    expect(toggled('fog; set: "Act 1, the quay"', 'set', 'Kit 9"')).toBe('fog; set: "Act 1, the quay", "Kit 9"""')
    expect(asks('set: "Act 1, the quay"', 'set', 'act 1, the quay')).toBe(true)
    expect(toggled('fog; set: "Act 1, the quay"', 'set', 'Act 1, the quay')).toBe('fog')
    expect(suggestions('tag: "a; b"; set: act', { set: ['Act 1, the quay'], tag: [] })).toEqual([
      'tag: "a; b"; set: "Act 1, the quay"',
    ])
    expect(suggestions('set: "Act 1, t', { set: ['Act 1, the quay'] })).toEqual(['set: "Act 1, the quay"'])
  })

  it('propose at most eight, of values and of what a word may begin', () => {
    const tag = Array.from({ length: 20 }, (_, i) => `sea ${i}`)
    expect(suggestions('tag: se', { tag })).toEqual(tag.slice(0, 8).map((name) => `tag: ${name}`))
    expect(suggestions('se', { tag })).toEqual(tag.slice(0, 8).map((name) => `tag: ${name}`))
  })

  it('gain and lose a value at a click', () => {
    expect(toggled('fog', 'tag', 'sea')).toBe('fog; tag: sea')
    expect(toggled('fog; tag: sea', 'tag', 'night')).toBe('fog; tag: sea, night')
    expect(toggled('fog; tag: sea, night', 'tag', 'Sea')).toBe('fog; tag: night')
    expect(toggled('tag: night', 'tag', 'night')).toBe('')
    expect(toggled('not tag: sea', 'tag', 'sea')).toBe('not tag: sea; tag: sea')
  })

  it('are suggested while typing: terms by their beginning, values after the colon', () => {
    const known = { tag: ['lineart', 'night', 'sea'], family: ['Washes'], size: ['under 60'], 'used in': ['nothing'] }
    expect(suggestions('fog fam', known)).toEqual(['fog family: '])
    expect(suggestions('tag: n', known)).toEqual(['tag: lineart', 'tag: night'])
    expect(suggestions('fog tag: sea, nig', known)).toEqual(['fog tag: sea, night'])
    expect(suggestions('size: under 60; was', known)).toEqual(['size: under 60; family: Washes'])
    expect(suggestions('', known)).toEqual([])
  })
})
