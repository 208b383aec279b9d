import type { Document } from '../../api/client'

/** One setting as the Bench shows it, taken from the preset's JSON Schema. */
export interface Setting {
  group: string
  path: string[]
  title: string
  help: string
  kind: 'number' | 'switch' | 'choice'
  unit: string
  least: number
  most: number
  step: number
  choices: string[]
}

type Node = {
  type?: string
  title?: string
  description?: string
  minimum?: number
  maximum?: number
  enum?: (string | null)[]
  properties?: Record<string, Node>
  allOf?: { if: { properties: Record<string, { const: string }> }; then: Node }[]
  anyOf?: Node[]
  'x-unit'?: string
}

let schema: Node = {}
/** Hands over the one list of settings, read from the server. */
export const useSchema = (read: unknown) => (schema = read as Node)

/** What the first form of the Bench tunes, in the order shown. */
const TUNED = [
  'mark.size.base', 'mark.size.least', 'mark.size.most', 'mark.tip.hardness', 'mark.roundness', 'mark.angle', 'mark.crisp',
  'trail.spacing', 'trail.scatter.across', 'trail.scatter.along', 'trail.count',
  'surface.scale', 'surface.depth', 'surface.travel', 'surface.invert',
  'pigment.opacity', 'pigment.flow',
]
/** A slider's reach where the whole range would be too coarse to use; numbers may go further. */
const REACH: Record<string, number> = { 'mark.size.base': 200, 'mark.size.least': 100, 'mark.size.most': 400, 'trail.spacing': 2, 'trail.scatter.across': 2, 'trail.scatter.along': 2, 'trail.count': 12, 'surface.scale': 4 }

function nodeAt(document: Document, path: string[]): Node | undefined {
  let node: Node | undefined = schema
  let value: unknown = document
  for (const key of path) {
    if (!node || value === null || value === undefined) return undefined
    if (node.anyOf) node = node.anyOf.find(({ type }) => type === 'object')
    const branch: Node | undefined = node?.allOf?.find(({ if: { properties } }) => Object.entries(properties).every(([k, { const: wanted }]) => (value as Document)[k] === wanted))?.then
    node = branch?.properties?.[key] ?? node?.properties?.[key]
    value = (value as Document)[key]
  }
  return node
}

/** The settings that mean something for this preset: no hardness on a picture tip, no depth without a grain. */
export function settings(document: Document): Setting[] {
  return TUNED.flatMap((name) => {
    const path = name.split('.')
    const node = nodeAt(document, path)
    if (!node) return []
    const unit = node['x-unit'] ?? ''
    const factor = unit === '%' ? 100 : 1
    return [{
      group: schema.properties?.[path[0]!]?.title ?? path[0]!,
      path, title: node.title ?? path.at(-1)!, help: node.description ?? '', unit,
      kind: node.type === 'boolean' ? 'switch' as const : node.enum ? 'choice' as const : 'number' as const,
      least: (node.minimum ?? 0) * factor, most: Math.max(REACH[name] ?? node.maximum ?? 1, Number(valueAt(document, path)) || 0) * factor,
      step: node.type === 'integer' || unit === '%' || unit === '°' ? 1 : 0.5,
      choices: (node.enum ?? []).filter((one): one is string => one !== null),
    }]
  })
}

export const valueAt = (document: Document, path: string[]): unknown => path.reduce<unknown>((at, key) => (at as Document | null | undefined)?.[key], document)

/** A copy of the document with one setting changed. */
export function withValue(document: Document, path: string[], value: unknown): Document {
  const [key, ...rest] = path
  return { ...document, [key!]: rest.length ? withValue(document[key!] ?? {}, rest, value) : value }
}

/** A value in the words of the screen: fractions as per cent. */
export function shown({ unit }: Setting, value: unknown): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off'
  if (typeof value !== 'number') return String(value ?? '–')
  if (unit === '%') return `${Math.round(value * 1000) / 10} %`
  return `${Math.round(value * 100) / 100}${unit === '°' ? '°' : unit ? ` ${unit}` : ''}`
}

/** How the first form of the Bench answers to pressure: one response each for size and opacity. */
export const CURVES: Record<string, [number, number][]> = {
  even: [[0, 0], [1, 1]],
  late: [[0, 0], [0.5, 0.2], [1, 1]],
  early: [[0, 0], [0.5, 0.8], [1, 1]],
}
export interface Answer { drives: string; by: string; from: number; to: number; curve: [number, number][] }

export const answerOf = (document: Document, drives: string): Answer | undefined => document.response.find((one: Answer) => one.drives === drives && one.by === 'pressure')

/** The document with the answer of this setting to pressure changed, or taken out. */
export function withAnswer(document: Document, drives: string, answer?: Partial<Answer>): Document {
  const was = answerOf(document, drives)
  if (!answer) return { ...document, response: document.response.filter((one: Answer) => one !== was) }
  const next = { drives, by: 'pressure', from: 0.2, to: 1, curve: CURVES.even!, ...was, ...answer }
  return { ...document, response: was ? document.response.map((one: Answer) => (one === was ? next : one)) : [...document.response, next] }
}

/** The name of a curve's shape, or “own” where an artist drew it. */
export const curveName = (curve: [number, number][]) => Object.entries(CURVES).find(([, points]) => JSON.stringify(points) === JSON.stringify(curve))?.[0] ?? 'own'

/** What differs between two documents, setting by setting, in the words of the screen. */
export function differences(from: Document, to: Document): string[] {
  const plain = settings(to).filter(({ path }) => !same(valueAt(from, path), valueAt(to, path)))
    .map((one) => `${one.title} ${shown(one, valueAt(from, one.path))} → ${shown(one, valueAt(to, one.path))}`)
  const answers = ['size', 'opacity'].filter((drives) => !same(answerOf(from, drives), answerOf(to, drives)))
    .map((drives) => `${drives[0]!.toUpperCase()}${drives.slice(1)} by pressure ${said(answerOf(from, drives))} → ${said(answerOf(to, drives))}`)
  return [...plain, ...answers]
}

/** Whether two settings hold the same value. */
export const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

const said = (answer?: Answer) => (answer ? `${Math.round(answer.from * 100)}–${Math.round(answer.to * 100)} %, ${curveName(answer.curve)}` : 'none')
