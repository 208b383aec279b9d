import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { useLibrary } from './library'
import { useSession } from './session'

/** The presets picked so far; kept for each library until put back. */
export const useTray = defineStore('tray', () => {
  const library = useLibrary()
  const session = useSession()
  const kept = useLocalStorage<Record<string, number[]>>('fobrel.tray', {})
  const key = computed(() => `${session.person?.id}.${session.libraryId}`)
  const ids = computed(() => (kept.value[key.value] ?? []).filter((id) => library.byId.has(id)))
  const presets = computed(() => ids.value.map((id) => library.byId.get(id)!))

  const put = (next: number[]) => (kept.value = { ...kept.value, [key.value]: next })
  const has = (id: number) => ids.value.includes(id)
  const toggle = (id: number) => put(has(id) ? ids.value.filter((one) => one !== id) : [...ids.value, id])
  const add = (more: number[]) => put([...new Set([...ids.value, ...more])])
  const clear = () => put([])

  return { ids, presets, has, toggle, add, clear }
})
