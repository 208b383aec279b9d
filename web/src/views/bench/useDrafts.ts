import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { paths } from '../../api/schema'
import { turns } from '../../parts/newest'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'

type Draft =
  paths['/api/libraries/{library}/changed']['get']['responses']['200']['content']['application/json']['presets'][number]

/** This person's drafts in the library; loaded again with the library and on coming back to the window. */
export function useDrafts() {
  const library = useLibrary()
  const session = useSession()
  const toast = useToast()
  /** Undefined until they are known. */
  const rows = ref<Draft[]>()
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
  watch(() => library.stamp, load, { immediate: true })
  // Drafts are private, so no news tells of those made in another window.
  useEventListener(window, 'focus', load)

  const discard = (which: number[]) =>
    toast.recorded(async () =>
      of(api.POST('/api/libraries/{library}/reset', { ...library.path(), body: { preset_ids: which, to: 'current' } })),
    )
  return { rows, ids, discard }
}
