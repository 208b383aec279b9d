import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Document } from '../src/api/client'
import {
  answerOf,
  bends,
  cautions,
  groups,
  inOrder,
  methods,
  offScale,
  onScale,
  responseChoices,
  sensor,
  settings,
  showsShifts,
  shown,
  STRAIGHT,
  useSchema,
  valueAt,
  withAnswer,
  withValue,
} from '../src/views/bench/settings'

const round: Document = {
  method: 'dabs',
  mark: {
    tip: { kind: 'round', hardness: 0.8 },
    size: { base: 40, least: 1, most: 5000 },
    roundness: 1,
    angle: 0,
    crisp: false,
  },
  trail: { spacing: 0.1, scatter: { across: 0, along: 0 }, count: 1, steadying: 0 },
  response: [],
  surface: null,
  pigment: { opacity: 1, flow: 0.07, blend: 'normal', eraser: false, colour: { mode: 'artist' }, mix: 0, own_paint: 1 },
  habits: { layer: null, under: false, merge: true, mirror: null },
  about: { tags: [] },
}
const picture = (frames: number, turn: unknown = 'in order') => ({
  ...round,
  mark: { ...round.mark, tip: { kind: 'picture', frames: Array(frames).fill('x'), colours: 'tint', turn, columns: 2 } },
  surface: { asset: 'x', depth: 0.5, travel: 1, scale: 1, invert: false },
})
const titles = (document: Document) => settings(document).map(({ title }) => title)

beforeAll(() => useSchema(JSON.parse(readFileSync('../core/data/preset.schema.json', 'utf8'))))

describe('settings', () => {
  it('come from the schema, in its groups', () => {
    expect(groups().map(({ title }) => title)).toEqual(['Mark', 'Trail', 'Surface', 'Pigment', 'Habits'])
    expect(titles(round)).toEqual([
      'Hardness',
      'Size',
      'Least size',
      'Most size',
      'Roundness',
      'Angle',
      'Crisp',
      'Spacing',
      'Scatter across',
      'Scatter along',
      'Count',
      'Steadying',
      'Opacity',
      'Flow',
      'Blend mode',
      'Eraser',
      'Colour',
      'Mix',
      'Own paint',
      'Layer',
      'Lay under',
      'Merge',
      'Mirror',
    ])
  })

  it('are only those that mean something for the method, the tip and the grain', () => {
    expect(titles(picture(1))).not.toContain('Hardness')
    expect(titles(picture(1))).toContain('Grain depth')
    expect(
      ['Turn', 'Columns'].map((one) =>
        [picture(1), picture(4), picture(4, ['in order', 'pressure'])].map((document) =>
          titles(document).includes(one),
        ),
      ),
    ).toEqual([
      [false, true, true],
      [false, false, true],
    ])
    const ribbon = titles({ ...picture(1), method: 'ribbon' })
    expect(['Spacing', 'Count', 'Mix', 'Crisp', 'Flow'].filter((one) => ribbon.includes(one))).toEqual([])
    expect(titles({ ...round, method: 'garland' })).not.toContain('Own paint')
    expect([
      responseChoices(round).drives.includes('grain depth'),
      responseChoices(picture(3)).drives.includes('frame'),
      responseChoices(round).by.length,
    ]).toEqual([false, true, 9])
  })

  it('never let a slider reach less far than the value it shows', () => {
    expect(settings(round).find(({ title }) => title === 'Most size')!.most).toBe(5000)
    expect(settings(round).find(({ title }) => title === 'Size')!.most).toBe(200)
  })

  it('change one at a time and leave the document they came from alone', () => {
    const next = withValue(round, ['mark', 'size', 'base'], 12)
    expect([valueAt(next, ['mark', 'size', 'base']), valueAt(round, ['mark', 'size', 'base']), next.trail]).toEqual([
      12,
      40,
      round.trail,
    ])
  })

  it('say fractions as per cent, and read them back', () => {
    expect([
      shown({ unit: '%' }, 0.07),
      shown({ unit: 'px' }, 40),
      shown({ unit: '°' }, -30),
      shown({ unit: '' }, true),
      shown({ unit: '' }, null),
      shown({ unit: '' }, { mode: 'fixed', value: '#0f6b6b' }),
    ]).toEqual(['7 %', '40 px', '-30°', 'on', 'none', '#0f6b6b'])
    expect([onScale({ unit: '%' }, 0.075), offScale({ unit: '%' }, 7.5), offScale({ unit: 'px' }, 7.5)]).toEqual([
      7.5, 0.075, 7.5,
    ])
  })

  it('answer, cell by cell, and can stop answering', () => {
    const answering = withAnswer(round, 'size', 'tilt', { from: 0.5 })
    expect(answerOf(answering, 'size', 'tilt')).toEqual({
      drives: 'size',
      by: 'tilt',
      from: 0.5,
      to: 1,
      curve: STRAIGHT,
    })
    const both = withAnswer(withAnswer(answering, 'hue', 'random', {}), 'size', 'tilt', {
      curve: bends['turn over']([
        [0, 0.3],
        [1, 0.9],
      ]),
    })
    expect([
      answerOf(both, 'size', 'tilt')!.curve,
      answerOf(both, 'hue', 'random')!.from,
      both.response.length,
    ]).toEqual([
      [
        [0, 0.7],
        [1, 0.1],
      ],
      -15,
      2,
    ])
    expect(withAnswer(both, 'size', 'tilt').response).toEqual([answerOf(both, 'hue', 'random')])
  })
})

describe('what settings say of each other', () => {
  const sized = (size: Record<string, number>) => ({
    ...round,
    mark: { ...round.mark, size: { base: 40, least: 1, most: 5000, ...size } },
  })
  const limits = (document: Document, title: string) => {
    const one = settings(document).find((setting) => setting.title === title)!
    return [one.least, one.limit]
  }

  it('holds the least size below the most, from either side', () => {
    expect([
      limits(sized({ least: 5, most: 10 }), 'Least size'),
      limits(sized({ least: 5, most: 10 }), 'Most size'),
    ]).toEqual([
      [0.1, 10],
      [5, 5000],
    ])
    const turned = sized({ least: 50, most: 10 })
    expect(inOrder(turned, ['mark', 'size', 'least']).mark.size).toMatchObject({ least: 10, most: 10 })
    expect(inOrder(turned, ['mark', 'size', 'most']).mark.size).toMatchObject({ least: 50, most: 50 })
    expect(inOrder(round, ['mark', 'size', 'most'])).toBe(round)
  })

  it('points out a size that its limits hold back', () => {
    expect(cautions(round)).toEqual({})
    expect(cautions(sized({ base: 60, most: 40 }))['mark.size.base']).toMatch(/paints at 40 px: the most size/)
    expect(cautions(sized({ base: 2, least: 9 }))['mark.size.base']).toMatch(/paints at 9 px: the least size/)
  })

  it('says blend modes, sensors and methods in words', () => {
    const blend = settings(round).find(({ title }) => title === 'Blend mode')!
    expect([
      shown(blend, 'color-dodge'),
      shown(blend, 'multiply'),
      sensor('random').word,
      sensor('random').help,
      methods().choices,
    ]).toEqual([
      'colour dodge',
      'multiply',
      'chance',
      'Chance, anew for each mark',
      ['dabs', 'ribbon', 'garland', 'smear'],
    ])
    expect(
      settings(round)
        .filter(({ help }) => !help)
        .map(({ title }) => title),
    ).toEqual([])
    expect(
      settings(round)
        .map(({ help }) => help)
        .join(' '),
    ).not.toMatch(/\b[01] (is|leaves|as|drags)\b/)
  })

  it('knows on which colours a shift of hue shows', () => {
    expect(['#1d2026', '#ffffff', '#808080', '#2f6f9f', '#a3312f'].map(showsShifts)).toEqual([
      false,
      false,
      false,
      true,
      true,
    ])
  })
})
