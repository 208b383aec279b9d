import { useLocalStorage } from '@vueuse/core'

export type BrushesLook = {
  mode: 'strips' | 'rows' | 'table'
  height: number
  ground: 'white' | 'grey' | 'black'
  columns: string[]
  /** Whether a brush's picture stands beside its strip. */
  pictures?: boolean
}

/** How this browser shows the brush list. */
export const useBrushesLook = () =>
  useLocalStorage<BrushesLook>('fobrel.brushes', {
    mode: 'strips',
    height: 62,
    ground: 'white',
    columns: ['size', 'category', 'tags', 'traits', 'changed'],
  })
