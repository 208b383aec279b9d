import { useLocalStorage } from '@vueuse/core'

export type WallLook = {
  mode: 'strips' | 'rows' | 'table'
  height: number
  ground: 'white' | 'grey' | 'black'
  columns: string[]
  /** Whether a brush's picture stands beside its strip. */
  pictures?: boolean
}

/** How this browser shows the Wall. */
export const useWallLook = () =>
  useLocalStorage<WallLook>('fobrel.wall', {
    mode: 'strips',
    height: 62,
    ground: 'white',
    columns: ['size', 'family', 'tags', 'traits', 'changed'],
  })
