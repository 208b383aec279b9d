import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Document } from '../src/api/client'
import { answerOf, CURVES, curveName, differences, settings, shown, useSchema, valueAt, withAnswer, withValue } from '../src/views/bench/settings'

const round: Document = {
  mark: { tip: { kind: 'round', hardness: 0.8 }, size: { base: 40, least: 1, most: 5000 }, roundness: 1, angle: 0, crisp: false },
  trail: { spacing: 0.1, scatter: { across: 0, along: 0 }, count: 1 }, response: [], surface: null, pigment: { opacity: 1, flow: 0.07 },
}
const titles = (document: Document) => settings(document).map(({ title }) => title)

beforeAll(() => useSchema(JSON.parse(readFileSync('../core/data/preset.schema.json', 'utf8'))))

describe('settings', () => {
  it('shows only those that mean something for the tip and the grain', () => {
    expect(titles(round)).toContain('Hardness')
    expect(titles(round)).not.toContain('Grain depth')
    const stamp = { ...round, mark: { ...round.mark, tip: { kind: 'picture', frames: ['x'] } }, surface: { asset: 'x', depth: 0.5, travel: 1, scale: 1, invert: false } }
    expect(titles(stamp)).not.toContain('Hardness')
    expect(titles(stamp)).toContain('Grain depth')
  })

  it('never lets a slider reach less far than the value it shows', () => {
    const most = settings(round).find(({ title }) => title === 'Most size')!
    expect(most.most).toBe(5000)
  })

  it('changes one setting and leaves the document it came from alone', () => {
    const next = withValue(round, ['mark', 'size', 'base'], 12)
    expect([valueAt(next, ['mark', 'size', 'base']), valueAt(round, ['mark', 'size', 'base']), next.trail]).toEqual([12, 40, round.trail])
  })

  it('says fractions as per cent', () => {
    const flow = settings(round).find(({ title }) => title === 'Flow')!
    expect([shown(flow, 0.07), shown({ ...flow, unit: 'px' }, 40), shown({ ...flow, unit: '°' }, -30), shown(flow, true)]).toEqual(['7 %', '40 px', '-30°', 'on'])
  })

  it('answers to pressure, keeps a curve an artist drew, and can stop answering', () => {
    const answering = withAnswer(round, 'size', { from: 0.5 })
    expect(answerOf(answering, 'size')).toEqual({ drives: 'size', by: 'pressure', from: 0.5, to: 1, curve: CURVES.even })
    const own = withAnswer(answering, 'size', { curve: [[0, 0.3], [1, 0.9]] })
    expect([curveName(answerOf(own, 'size')!.curve), own.response.length]).toEqual(['own', 1])
    expect(withAnswer(own, 'size').response).toEqual([])
  })

  it('says in words what differs', () => {
    const changed = withAnswer(withValue(round, ['pigment', 'flow'], 0.11), 'opacity', { from: 0.1, curve: CURVES.late })
    expect(differences(round, changed)).toEqual(['Flow 7 % → 11 %', 'Opacity by pressure none → 10–100 %, late'])
    expect(differences(round, round)).toEqual([])
  })
})
