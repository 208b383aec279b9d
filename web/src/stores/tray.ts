import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { useLibrary } from './library'
import { useSession } from './session'

/** The presets picked so far; kept for each library until deselected. */
export const useTray = defineStore('tray', () => {
  const library = useLibrary()
  const session = useSession()
  const kept = useLocalStorage<Record<string, number[]>>('fobrel.tray', {})
  const key = computed(() => `${session.person?.id}.${session.libraryId}`)
  const ids = computed(() => kept.value[key.value] ?? [])
  const picked = computed(() => new Set(ids.value))
  /** Those that are shown in the tray; it may hold thousands. */
  const SHOWN = 40
  const presets = computed(() => ids.value.slice(0, SHOWN).flatMap((id) => library.byId.get(id) ?? []))

  const put = (next: number[]) => (kept.value = { ...kept.value, [key.value]: next })
  const has = (id: number) => picked.value.has(id)
  const toggle = (id: number) => put(has(id) ? ids.value.filter((one) => one !== id) : [...ids.value, id])
  const add = (more: number[]) => put([...new Set([...ids.value, ...more])])
  const clear = () => put([])

  // What was hidden or destroyed meanwhile falls out by itself.
  watch(
    [() => library.stamp, key, () => ids.value.length],
    async () => {
      const shown = ids.value.slice(0, SHOWN)
      if (!shown.length || library.loaded !== session.libraryId) return
      await library.need(shown)
      const gone = shown.filter((id) => !library.byId.has(id))
      if (gone.length) put(ids.value.filter((id) => !gone.includes(id)))
    },
    { immediate: true },
  )

  return { ids, presets, has, toggle, add, clear, put }
})
