import { useLocalStorage } from '@vueuse/core'

/** The brush that lay on the Bench last, by library. */
const last = useLocalStorage<Record<number, number>>('fobrel.last-brush', {})

/** @returns its id, or undefined where none was opened yet */
export const lastBrush = (libraryId: number): number | undefined => last.value[libraryId]

export function rememberBrush(libraryId: number, id: number) {
  last.value = { ...last.value, [libraryId]: id }
}
