import type { Document } from '../../api/client'
import type { components } from '../../api/schema'
import { words } from '../../stores/words'

/** One setting as the server describes it. */
export type Setting = components['schemas']['Setting']
export type Sheet = components['schemas']['Sheet']
/** A group of settings, as it is named in a brush. */
export type Group = components['schemas']['SettingGroup']

/** The groups of settings in their order. */
export const groups = () => words.value.groups
/** The ways to build a stroke, with what they are. */
export const methods = () => words.value.method
/** All that can drive a response. */
export const sensors = () => words.value.sensors.map(({ name }) => name)
/** What drives a response, in the words of the screen, and what that means. */
export const sensor = (by: string) =>
  words.value.sensors.find(({ name }) => name === by) ?? { name: by, word: by, help: '', chance: false }

const MINIMUM = ['tip', 'size', 'minimum']
const MAXIMUM = ['tip', 'size', 'maximum']

/** The document with the least size not above the most, after the setting at this path was changed. */
export function inOrder(document: Document, path: string[]): Document {
  const { minimum, maximum } = document.tip.size as { minimum: number; maximum: number }
  if (minimum <= maximum) return document
  return same(path, MINIMUM) ? withValue(document, MINIMUM, maximum) : withValue(document, MAXIMUM, minimum)
}

/** Whether a shift of hue, saturation or lightness can be told on this colour, #rrggbb. */
export function showsShifts(colour: string): boolean {
  const bands = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255)
  return Math.max(...bands) - Math.min(...bands) >= 0.2
}

export const valueAt = (document: Document, path: string[]): unknown =>
  path.reduce<unknown>((at, key) => (at as Document | null | undefined)?.[key], document)

/** A copy of the document with one setting changed. */
export function withValue(document: Document, path: string[], value: unknown): Document {
  const [key, ...rest] = path
  return { ...document, [key!]: rest.length ? withValue(document[key!] ?? {}, rest, value) : value }
}

/** The value as the screen counts it: fractions as per cent. */
export const onScale = ({ unit }: Pick<Setting, 'unit'>, value: unknown) =>
  typeof value === 'number' && unit === '%' ? Math.round(value * 1000) / 10 : (value as number)
/** The way back from the screen's count. */
export const offScale = ({ unit }: Pick<Setting, 'unit'>, value: number) =>
  unit === '%' ? Math.round(value * 10) / 1000 : value

/** A value in the words of the screen. */
export function shown({ unit, choices }: { unit: string; choices?: Setting['choices'] }, value: unknown): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off'
  if (value && typeof value === 'object')
    return 'value' in value ? String(value.value) : 'mode' in value ? 'artist’s' : String(value)
  if (typeof value !== 'number') return choices?.find((one) => one.value === value)?.word ?? String(value ?? 'none')
  const number = Math.round(onScale({ unit }, value) * 100) / 100
  return `${number}${unit === '°' ? '°' : unit ? ` ${unit}` : ''}`
}

/** Whether two settings hold the same value. */
export const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)

export type Point = [number, number]
export interface Answer {
  drives: string
  by: string
  from: number
  to: number
  curve: Point[]
}
export const STRAIGHT: Point[] = [
  [0, 0],
  [1, 1],
]

export const answerOf = (document: Document, drives: string, by: string): Answer | undefined =>
  (document.response as Answer[]).find((one) => one.drives === drives && one.by === by)

/** What a new response does before anybody tunes it. */
export function freshAnswer(drives: string, by: string): Answer {
  const one = words.value.drives.find(({ name }) => name === drives)
  const [from = 0.2, to = 1] = (sensor(by).chance ? one?.by_chance : one?.ends) ?? []
  return { drives, by, from, to, curve: STRAIGHT }
}

/** The document with one cell of the grid changed, or emptied. */
export function withAnswer(document: Document, drives: string, by: string, answer?: Partial<Answer>): Document {
  const was = answerOf(document, drives, by)
  const list = document.response as Answer[]
  if (!answer) return { ...document, response: list.filter((one) => one !== was) }
  const next = { ...freshAnswer(drives, by), ...was, ...answer }
  return { ...document, response: was ? list.map((one) => (one === was ? next : one)) : [...list, next] }
}

/** The unit of a response's two ends. */
export const answerUnit = (drives: string) => words.value.drives.find(({ name }) => name === drives)?.unit ?? '%'

/** Curves as artists ask for them. */
export const bends = {
  Linear: (): Point[] => STRAIGHT,
  Softer: (): Point[] => [
    [0, 0],
    [0.5, 0.75],
    [1, 1],
  ],
  Firmer: (): Point[] => [
    [0, 0],
    [0.5, 0.25],
    [1, 1],
  ],
  Invert: (curve: Point[]): Point[] => curve.map(([x, y]) => [x, Math.round((1 - y) * 1000) / 1000]),
}
