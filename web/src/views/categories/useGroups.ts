import { ref } from 'vue'
import type { Entry } from '../../api/client'
import { asks, type TermName } from '../../parts/asks'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** What is about to be removed although sets fill themselves from it. */
export interface Dropping {
  name: string
  sets: string[]
  deed: () => Promise<unknown>
}

/** Deeds on categories, statuses and tags: done, then everything is read anew. */
export function useGroups() {
  const library = useLibrary()
  const toast = useToast()
  const dropping = ref<Dropping>()

  const doing = (deed: () => Promise<unknown>) =>
    toast.attempt(async () => {
      await deed()
      await library.load()
    })

  /** Removed at once, with an undo; told beforehand where a set fills itself from it. */
  function drop(term: TermName, name: string, deed: () => Promise<{ entry: Entry }>) {
    const sets = library.sets.filter(({ terms }) => asks(terms, term, name)).map((set) => `“${set.name}”`)
    const go = async () => {
      await toast.recorded(deed)
      dropping.value = undefined
    }
    if (sets.length) dropping.value = { name, sets, deed: go }
    else void go()
  }

  const count = (kind: 'categories' | 'statuses', id: number) =>
    library.all?.[kind].find(({ key }) => key === String(id))?.count ?? 0

  return { doing, drop, dropping, count }
}
