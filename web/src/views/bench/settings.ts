import type { Document } from '../../api/client'
import type { paths } from '../../api/schema'

/** One setting as the Bench shows it, taken from the preset's JSON Schema. */
export interface Setting {
  group: string
  path: string[]
  title: string
  help: string
  kind: 'number' | 'switch' | 'choice' | 'colour' | 'turn' | 'text'
  unit: string
  least: number
  /** How far the slider goes. */
  most: number
  /** How far the number may go. */
  limit: number
  step: number
  choices: (string | null)[]
  /** What values are called on the screen where the file has another word for them. */
  words: Record<string, string>
}

export interface Node {
  type?: string | string[]
  title?: string
  description?: string
  minimum?: number
  maximum?: number
  enum?: (string | null)[]
  properties?: Record<string, Node>
  items?: Node
  allOf?: { if: { properties: Record<string, { const: string }> }; then: Node }[]
  anyOf?: Node[]
  $ref?: string
  $defs?: Record<string, Node>
  'x-unit'?: string
  'x-reach'?: number
  'x-methods'?: string[]
  'x-needs'?: string
  'x-words'?: Record<string, string>
  'x-helps'?: Record<string, string>
}

let schema: Node = {}
/** Hands over the one list of settings, read from the server. */
export const useSchema = (read: unknown) => (schema = read as Node)

type Revision = paths['/api/libraries/{library}/revisions']['post']['requestBody']['content']['application/json']
/** A group of settings that can be copied from one brush to another. */
export type Group = NonNullable<Revision['groups']>[number]

/** The groups of settings, in the schema's order; what a brush is called and for is not one. */
export const groups = () =>
  Object.entries(schema.properties ?? {})
    .filter(([name, node]) => name !== 'about' && name !== 'response' && (node.properties || node.anyOf))
    .map(([name, node]) => ({ name: name as Group, title: node.title ?? name, help: node.description ?? '' }))

/** What can be driven, and what can drive it. */
export const responseChoices = (document: Document) => {
  const { drives, by } = schema.properties?.response?.items?.properties ?? {}
  const meant = (drives?.enum ?? []).filter(
    (one) =>
      !(one === 'grain depth' && !document.surface) &&
      !(one === 'frame' && frames(document) < 2) &&
      !(one === 'mix' && !['dabs', 'smear'].includes(document.method)),
  )
  return { drives: meant as string[], by: (by?.enum ?? []) as string[] }
}

const frames = (document: Document) => (document.mark?.tip?.frames as unknown[] | undefined)?.length ?? 0

/** Whether a setting means something for this brush. */
function means(node: Node, document: Document): boolean {
  if (node['x-methods'] && !node['x-methods'].includes(document.method)) return false
  if (node['x-needs'] === 'frames') return frames(document) > 1
  if (node['x-needs'] === 'two turns') return frames(document) > 1 && Array.isArray(document.mark.tip.turn)
  return true
}

/** The settings of an object that apply to it: its own, and those of the branch it takes. */
function properties(node: Node, value: Document): [string, Node][] {
  const branches = (node.allOf ?? [])
    .filter(({ if: { properties: wanted } }) =>
      Object.entries(wanted).every(([key, { const: one }]) => value[key] === one),
    )
    .map(({ then }) => then)
  const object = node.anyOf?.find(({ type }) => type === 'object')
  return [node, object, ...branches].flatMap((one) => Object.entries(one?.properties ?? {}))
}

function kind(node: Node, path: string): Setting['kind'] | undefined {
  if (path === 'pigment.colour') return 'colour'
  if (path === 'mark.tip.turn') return 'turn'
  // Chosen with the colour, and with the tip itself.
  if (
    path === 'mark.tip.colours' ||
    path === 'mark.tip.kind' ||
    node.$ref ||
    node.type === 'array' ||
    node.type === 'object'
  )
    return undefined
  if (node.enum) return 'choice'
  if (node.type === 'boolean') return 'switch'
  if (node.type === 'number' || node.type === 'integer') return 'number'
  return 'text'
}

function walk(node: Node, document: Document, path: string[]): Setting[] {
  const value = valueAt(document, path) as Document | null
  if (value === null || typeof value !== 'object') return []
  return properties(node, value).flatMap(([key, inner]) => {
    const here = [...path, key]
    if (!means(inner, document)) return []
    const what = kind(inner, here.join('.'))
    return what ? [setting(inner, document, here, what)] : walk(inner, document, here)
  })
}

const LEAST = ['mark', 'size', 'least']
const MOST = ['mark', 'size', 'most']
const is = (path: string[], other: string[]) => path.join('.') === other.join('.')

/** How far a setting may go, in the screen's count; the least size not above the most, nor the most below it. */
function limits(node: Node, document: Document, path: string[], factor: number): [least: number, most: number] {
  const number = (at: string[]) => Number(valueAt(document, at))
  const [least, most] = [(node.minimum ?? 0) * factor, (node.maximum ?? 1e6) * factor]
  if (is(path, LEAST)) return [least, Math.min(most, number(MOST))]
  if (is(path, MOST)) return [Math.max(least, number(LEAST)), most]
  return [least, most]
}

function setting(node: Node, document: Document, path: string[], what: Setting['kind']): Setting {
  const unit = node['x-unit'] ?? ''
  const factor = unit === '%' ? 100 : 1
  const [least, limit] = limits(node, document, path, factor)
  const reach = node['x-reach'] ?? node.maximum ?? 1
  return {
    group: path[0]!,
    path,
    title: node.title ?? path.at(-1)!,
    help: node.description ?? '',
    kind: what,
    unit,
    least,
    limit,
    most: Math.max(reach, Number(valueAt(document, path)) || 0) * factor,
    step: node.type === 'integer' || unit === '%' || unit === '°' ? 1 : 0.5,
    words: node['x-words'] ?? {},
    choices: what === 'turn' ? (schema.$defs?.turn?.enum ?? []) : (node.enum ?? []),
  }
}

/** The document with the least size not above the most, after the setting at this path was changed. */
export function inOrder(document: Document, path: string[]): Document {
  const { least, most } = document.mark.size as { least: number; most: number }
  if (least <= most) return document
  return is(path, LEAST) ? withValue(document, LEAST, most) : withValue(document, MOST, least)
}

/** What a person should know of settings that do not do what they say; by path. */
export function cautions(document: Document): Record<string, string> {
  const { base, least, most } = document.mark.size as { base: number; least: number; most: number }
  const held = base > most ? most : base < least ? least : undefined
  return held === undefined
    ? {}
    : { 'mark.size.base': `It paints at ${held} px: the ${base > most ? 'most' : 'least'} size holds it there.` }
}

/** Whether a shift of hue, saturation or lightness can be told on this colour, #rrggbb. */
export function showsShifts(colour: string): boolean {
  const bands = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255)
  return Math.max(...bands) - Math.min(...bands) >= 0.2
}

/** The ways to build a stroke, with what they are. */
export const methods = () => ({
  choices: (schema.properties?.method?.enum ?? []) as string[],
  help: schema.properties?.method?.description ?? '',
})

/** What drives a response, in the words of the screen, and what that means. */
export const sensor = (by: string) => {
  const node = schema.properties?.response?.items?.properties?.by
  return { word: node?.['x-words']?.[by] ?? by, help: node?.['x-helps']?.[by] ?? '' }
}

/** The settings that mean something for this preset: no hardness on a picture tip, no depth without a grain. */
export const settings = (document: Document): Setting[] =>
  groups().flatMap(({ name }) => walk(schema.properties![name]!, document, [name]))

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
export function shown(
  { unit, words }: Pick<Setting, 'unit'> & { words?: Record<string, string> },
  value: unknown,
): string {
  if (typeof value === 'string' && words?.[value]) return words[value]
  if (typeof value === 'boolean') return value ? 'on' : 'off'
  if (value && typeof value === 'object')
    return 'value' in value ? String(value.value) : 'mode' in value ? 'artist’s' : String(value)
  if (typeof value !== 'number') return String(value ?? 'none')
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

/** What a new response does before anybody tunes it: degrees and fractions add, all else multiplies. */
export function freshAnswer(drives: string, by: string): Answer {
  const chance = by === 'random' || by === 'stroke'
  const ends: Record<string, [number, number]> = {
    angle: chance ? [-30, 30] : [0, 360],
    hue: chance ? [-15, 15] : [0, 20],
    saturation: [-0.2, 0.2],
    lightness: [-0.2, 0.2],
    frame: [0, 1],
  }
  const [from, to] = ends[drives] ?? [0.2, 1]
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
export const answerUnit = (drives: string) => (drives === 'angle' || drives === 'hue' ? '°' : '%')

/** Curves as artists ask for them. */
export const bends = {
  straighten: (): Point[] => STRAIGHT,
  soften: (): Point[] => [
    [0, 0],
    [0.5, 0.75],
    [1, 1],
  ],
  firm: (): Point[] => [
    [0, 0],
    [0.5, 0.25],
    [1, 1],
  ],
  'turn over': (curve: Point[]): Point[] => curve.map(([x, y]) => [x, Math.round((1 - y) * 1000) / 1000]),
}
