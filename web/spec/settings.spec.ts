import { beforeAll, describe, expect, it } from 'vitest'
import type { Document } from '../src/api/client'
import { words } from '../src/stores/words'
import {
  answerOf,
  bends,
  inOrder,
  offScale,
  onScale,
  sensor,
  showsShifts,
  shown,
  STRAIGHT,
  valueAt,
  withAnswer,
  withValue,
} from '../src/views/bench/settings'

const round: Document = {
  method: 'dabs',
  tip: {
    form: { kind: 'round', hardness: 0.8 },
    size: { base: 40, minimum: 1, maximum: 5000 },
    roundness: 1,
    angle: 0,
    hard_pixels: false,
  },
  stroke: { spacing: 0.1, scatter: { across: 0, along: 0 }, marks_per_step: 1, smoothing: 0 },
  response: [],
  grain: null,
  paint: { opacity: 1, flow: 0.07, blend: 'normal', eraser: false, colour: { mode: 'artist' }, mix: 0, own_paint: 1 },
  extras: { layer: null, under: false, merge: true, mirror: null },
  about: { tags: [] },
}
beforeAll(() => {
  words.value = {
    ...words.value,
    sensors: [{ name: 'random', word: 'chance', help: 'Chance, anew for each mark', chance: true }],
    drives: [
      { name: 'size', unit: '%', ends: [0.2, 1], by_chance: [0.2, 1] },
      { name: 'hue', unit: '°', ends: [0, 20], by_chance: [-15, 15] },
    ],
  }
})

describe('settings', () => {
  it('change one at a time and leave the document they came from alone', () => {
    const next = withValue(round, ['tip', 'size', 'base'], 12)
    expect([valueAt(next, ['tip', 'size', 'base']), valueAt(round, ['tip', 'size', 'base']), next.stroke]).toEqual([
      12,
      40,
      round.stroke,
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
      curve: bends['Invert']([
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
    tip: { ...round.tip, size: { base: 40, minimum: 1, maximum: 5000, ...size } },
  })
  it('holds the minimum size below the maximum, from either side', () => {
    const turned = sized({ minimum: 50, maximum: 10 })
    expect(inOrder(turned, ['tip', 'size', 'minimum']).tip.size).toMatchObject({ minimum: 10, maximum: 10 })
    expect(inOrder(turned, ['tip', 'size', 'maximum']).tip.size).toMatchObject({ minimum: 50, maximum: 50 })
    expect(inOrder(round, ['tip', 'size', 'maximum'])).toBe(round)
  })

  it('says a choice in the words that came with it, and a sensor in its own', () => {
    const choices = [
      { value: 'color-dodge', word: 'colour dodge' },
      { value: null, word: 'none' },
    ]
    expect([
      shown({ unit: '', choices }, 'color-dodge'),
      shown({ unit: '', choices }, null),
      shown({ unit: '', choices }, 'of a later version'),
      sensor('random').word,
      sensor('tilt').word,
    ]).toEqual(['colour dodge', 'none', 'of a later version', 'chance', 'tilt'])
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
