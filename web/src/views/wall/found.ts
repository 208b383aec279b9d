import type { Preset } from '../../api/client'

/** What the Wall is asked for; what is left out does not narrow it. */
export interface Wanted { words?: string; tag?: number; set?: number[]; changed?: boolean }

const plain = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()

/** The presets that fit, in their own order, or in the set's where one is asked for. */
export function found(presets: Preset[], { words = '', tag, set, changed }: Wanted): Preset[] {
  const parts = plain(words).split(/\s+/).filter(Boolean)
  const place = set && new Map(set.map((id, index) => [id, index]))
  const fitting = presets.filter(
    (preset) =>
      parts.every((part) => plain(preset.name).includes(part)) &&
      (tag === undefined || preset.tag_ids.includes(tag)) &&
      (!place || place.has(preset.id)) &&
      (!changed || preset.altered || preset.draft),
  )
  return place ? fitting.sort((a, b) => place.get(a.id)! - place.get(b.id)!) : fitting
}
