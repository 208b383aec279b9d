import { useLibrary } from '../../stores/library'
import type { Preset } from '../../api/client'
import { day } from '../../parts/when'

/** The columns of the brush list's table, by what they are called. */
export const COLUMNS: Record<string, string> = {
  size: 'Size',
  version: 'Version',
  category: 'Category',
  status: 'Status',
  tags: 'Tags',
  traits: 'Traits',
  author: 'Author',
  licence: 'Licence',
  notes: 'Notes',
  changed: 'Changed',
}

/** What stands in a column for a brush. */
export function cell(preset: Preset, column: string): string {
  const library = useLibrary()
  switch (column) {
    case 'size':
      return `${preset.size} px`
    case 'version':
      return String(preset.version)
    case 'category':
      return library.categoryById.get(preset.category_id ?? 0)?.name ?? ''
    case 'status':
      return library.statusById.get(preset.status_id ?? 0)?.name ?? ''
    case 'tags':
      return preset.tag_ids.map((id) => library.tagById.get(id)?.name).join(', ')
    case 'traits':
      return preset.traits.join(', ')
    case 'changed':
      return day(preset.changed_at)
    default:
      return String(preset[column as 'author' | 'licence' | 'notes'] ?? '')
  }
}
