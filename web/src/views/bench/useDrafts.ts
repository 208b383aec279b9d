import { computed, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { paths } from '../../api/schema'
import { turns } from '../../parts/newest'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'

export type DraftRow =
  paths['/api/libraries/{library}/changed']['get']['responses']['200']['content']['application/json']['presets'][number]

/** This person's drafts in the library, read again whenever the library's news or an undo may have changed them. */
export function useDrafts() {
  const library = useLibrary()
  const session = useSession()
  const toast = useToast()
  /** Undefined until they are known. */
  const rows = ref<DraftRow[]>()
  const ids = computed(() => rows.value?.map(({ id }) => id) ?? [])

  const turn = turns()
  const load = () =>
    toast.attempt(async () => {
      const mine = turn()
      const found = session.mayEdit
        ? (
            await of(
              api.GET('/api/libraries/{library}/changed', {
                params: { ...library.path().params, query: { to: 'current' } },
              }),
            )
          ).presets
        : []
      if (mine()) rows.value = found
    })
  watch(() => [toast.undone, library.stamp], load, { immediate: true })

  const discard = (which: number[]) =>
    toast.recorded(async () => {
      const done = await of(
        api.POST('/api/libraries/{library}/reset', { ...library.path(), body: { preset_ids: which, to: 'current' } }),
      )
      // Gone at once: reading the list anew may wait for strips. An answer that is under way is older than this.
      turn()
      rows.value = rows.value?.filter(({ id }) => !which.includes(id))
      return done
    })
  return { rows, ids, discard }
}
