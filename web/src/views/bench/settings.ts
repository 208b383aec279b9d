import type { Document } from '../../api/client'

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
}

let schema: Node = {}
/** Hands over the one list of settings, read from the server. */
export const useSchema = (read: unknown) => (schema = read as Node)

/** The groups of settings, in the schema's order; what a brush is called and for is not one. */
export const groups = () => Object.entries(schema.properties ?? {}).filter(([name, node]) => name !== 'about' && name !== 'response' && (node.properties || node.anyOf)).map(([name, node]) => ({ name, title: node.title ?? name, help: node.description ?? '' }))

/** What can be driven, and what can drive it. */
export const responseChoices = (document: Document) => {
  const { drives, by } = schema.properties?.response?.items?.properties ?? {}
  const meant = (drives?.enum ?? []).filter((one) => !(one === 'grain depth' && !document.surface) && !(one === 'frame' && frames(document) < 2) && !(one === 'mix' && !['dabs', 'smear'].includes(document.method)))
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
  const branches = (node.allOf ?? []).filter(({ if: { properties: wanted } }) => Object.entries(wanted).every(([key, { const: one }]) => value[key] === one)).map(({ then }) => then)
  const object = node.anyOf?.find(({ type }) => type === 'object')
  return [node, object, ...branches].flatMap((one) => Object.entries(one?.properties ?? {}))
}

function kind(node: Node, path: string): Setting['kind'] | undefined {
  if (path === 'pigment.colour') return 'colour'
  if (path === 'mark.tip.turn') return 'turn'
  if (path === 'mark.tip.kind' || node.$ref || node.type === 'array' || node.type === 'object') return undefined
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

function setting(node: Node, document: Document, path: string[], what: Setting['kind']): Setting {
  const unit = node['x-unit'] ?? ''
  const factor = unit === '%' ? 100 : 1
  return {
    group: path[0]!, path, title: node.title ?? path.at(-1)!, help: node.description ?? '', kind: what, unit,
    least: (node.minimum ?? 0) * factor,
    most: Math.max(node['x-reach'] ?? node.maximum ?? 1, Number(valueAt(document, path)) || 0) * factor,
    limit: (node.maximum ?? 1e6) * factor,
    step: node.type === 'integer' || unit === '%' || unit === '°' ? 1 : 0.5,
    choices: what === 'turn' ? (schema.$defs?.turn?.enum ?? []) : (node.enum ?? []),
  }
}

/** The settings that mean something for this preset: no hardness on a picture tip, no depth without a grain. */
export const settings = (document: Document): Setting[] => groups().flatMap(({ name }) => walk(schema.properties![name]!, document, [name]))

export const valueAt = (document: Document, path: string[]): unknown => path.reduce<unknown>((at, key) => (at as Document | null | undefined)?.[key], document)

/** A copy of the document with one setting changed. */
export function withValue(document: Document, path: string[], value: unknown): Document {
  const [key, ...rest] = path
  return { ...document, [key!]: rest.length ? withValue(document[key!] ?? {}, rest, value) : value }
}

/** The value as the screen counts it: fractions as per cent. */
export const onScale = ({ unit }: Pick<Setting, 'unit'>, value: unknown) => (typeof value === 'number' && unit === '%' ? Math.round(value * 1000) / 10 : (value as number))
/** The way back from the screen's count. */
export const offScale = ({ unit }: Pick<Setting, 'unit'>, value: number) => (unit === '%' ? Math.round(value * 10) / 1000 : value)

/** A value in the words of the screen. */
export function shown({ unit }: Pick<Setting, 'unit'>, value: unknown): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off'
  if (value && typeof value === 'object') return 'value' in value ? String(value.value) : 'mode' in value ? 'artist’s' : String(value)
  if (typeof value !== 'number') return String(value ?? 'none')
  const number = Math.round(onScale({ unit }, value) * 100) / 100
  return `${number}${unit === '°' ? '°' : unit ? ` ${unit}` : ''}`
}

/** Whether two settings hold the same value. */
export const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)

export type Point = [number, number]
export interface Answer { drives: string; by: string; from: number; to: number; curve: Point[] }
export const STRAIGHT: Point[] = [[0, 0], [1, 1]]

export const answerOf = (document: Document, drives: string, by: string): Answer | undefined => (document.response as Answer[]).find((one) => one.drives === drives && one.by === by)

/** What a new response does before anybody tunes it: degrees and fractions add, all else multiplies. */
export function freshAnswer(drives: string, by: string): Answer {
  const chance = by === 'random' || by === 'stroke'
  const ends: Record<string, [number, number]> = { angle: chance ? [-30, 30] : [0, 360], hue: chance ? [-15, 15] : [0, 20], saturation: [-0.2, 0.2], lightness: [-0.2, 0.2], frame: [0, 1] }
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
  soften: (): Point[] => [[0, 0], [0.5, 0.75], [1, 1]],
  firm: (): Point[] => [[0, 0], [0.5, 0.25], [1, 1]],
  'turn over': (curve: Point[]): Point[] => curve.map(([x, y]) => [x, Math.round((1 - y) * 1000) / 1000]),
}
