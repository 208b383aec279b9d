import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, of, type BrushSet, type Preset, type Seat, type Tag } from '../api/client'
import { useSchema } from '../views/bench/settings'
import { useSession } from './session'

/** The brushes, tags, sets and seats of the library at hand. */
export const useLibrary = defineStore('library', () => {
  const session = useSession()
  const presets = ref<Preset[]>([])
  const tags = ref<Tag[]>([])
  const sets = ref<BrushSet[]>([])
  const seats = ref<Seat[]>([])
  const loaded = ref<number>()
  const byId = computed(() => new Map(presets.value.map((preset) => [preset.id, preset])))
  const tagById = computed(() => new Map(tags.value.map((tag) => [tag.id, tag])))
  const changed = computed(() => presets.value.filter(({ altered, draft }) => altered || draft))

  let schema = false
  const path = () => ({ params: { path: { library: session.libraryId! } } })

  /** Reads everything anew; an answer for a library left meanwhile is dropped. */
  async function load() {
    const id = session.libraryId
    if (!id) return
    if (!schema) useSchema(await of(api.GET('/api/settings')))
    schema = true
    const [p, t, s, w] = await Promise.all([
      of(api.GET('/api/libraries/{library}/presets', path())),
      of(api.GET('/api/libraries/{library}/tags', path())),
      of(api.GET('/api/libraries/{library}/sets', path())),
      of(api.GET('/api/libraries/{library}/seats', path())),
    ])
    if (id !== session.libraryId) return
    presets.value = p.presets
    tags.value = t.tags
    sets.value = s.sets
    seats.value = w.seats
    loaded.value = id
  }

  return { presets, tags, sets, seats, loaded, byId, tagById, changed, path, load }
})
