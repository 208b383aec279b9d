import { defineStore } from 'pinia'
import { computed, ref, shallowReactive } from 'vue'
import {
  api,
  of,
  type BrushSet,
  type Facets,
  type Category,
  type Status,
  type Preset,
  type Desk,
  type Tag,
} from '../api/client'
import { turns } from '../parts/newest'
import { readWords } from './words'
import { useSession } from './session'

/** The library at hand: tags, categories, statuses, sets, desks, and those of its brushes that were asked for. */
export const useLibrary = defineStore('library', () => {
  const session = useSession()
  const tags = ref<Tag[]>([])
  const categories = ref<Category[]>([])
  const statuses = ref<Status[]>([])
  const sets = ref<BrushSet[]>([])
  const desks = ref<Desk[]>([])
  /** What the whole library holds, counted. */
  const all = ref<Facets>()
  const loaded = ref<number>()
  /** Counts readings, so that a view knows when what it shows is old. */
  const stamp = ref(0)
  /** Counts what was said by others, for talk that is shown. */
  const talked = ref(0)
  const byId = shallowReactive(new Map<number, Preset>())
  const tagById = computed(() => new Map(tags.value.map((tag) => [tag.id, tag])))
  const categoryById = computed(() => new Map(categories.value.map((category) => [category.id, category])))
  const statusById = computed(() => new Map(statuses.value.map((one) => [one.id, one])))
  /** The tree of categories, laid out: each with how deep it hangs, and with the ids of itself and all below it. */
  const branches = computed(() => {
    const below = (parent: number | null, depth: number): { category: Category; depth: number; ids: number[] }[] =>
      categories.value
        .filter(({ parent_id }) => parent_id === parent)
        .flatMap((category) => {
          const inner = below(category.id, depth + 1)
          return [{ category, depth, ids: [category.id, ...inner.map((one) => one.category.id)] }, ...inner]
        })
    return below(null, 0)
  })
  const count = (state: string) => all.value?.states.find(({ key }) => key === state)?.count ?? 0

  const path = () => ({ params: { path: { library: session.libraryId! } } })

  /** Remembers brushes that came with an answer. */
  const know = (presets: Preset[]) => presets.forEach((preset) => byId.set(preset.id, preset))

  let waiting = new Set<number>()
  let asking: Promise<void> | undefined
  /** Asks for brushes that are not known yet, all of one moment together. */
  function need(ids: number[]): Promise<void> {
    ids.forEach((id) => byId.has(id) || waiting.add(id))
    if (!waiting.size) return asking ?? Promise.resolve()
    asking ??= Promise.resolve().then(async () => {
      const wanted = [...waiting]
      waiting = new Set()
      asking = undefined
      for (let at = 0; at < wanted.length; at += 1000)
        know(
          (
            await of(
              api.POST('/api/libraries/{library}/rows', {
                ...path(),
                body: { preset_ids: wanted.slice(at, at + 1000) },
              }),
            )
          ).presets,
        )
    })
    return asking
  }

  const turn = turns()
  /** Reads everything anew; an answer that is older than another's, or for a library left meanwhile, is dropped. */
  async function load() {
    const mine = turn()
    const id = session.libraryId
    if (!id) return
    await readWords()
    const known = loaded.value === id ? [...byId.keys()] : []
    const [t, o, s, w, f] = await Promise.all([
      of(api.GET('/api/libraries/{library}/tags', path())),
      of(api.GET('/api/libraries/{library}/order', path())),
      of(api.GET('/api/libraries/{library}/sets', path())),
      of(api.GET('/api/libraries/{library}/desks', path())),
      of(api.GET('/api/libraries/{library}/facets', path())),
    ])
    const fresh = known.length
      ? (await of(api.POST('/api/libraries/{library}/rows', { ...path(), body: { preset_ids: known.slice(-2000) } })))
          .presets
      : []
    if (!mine() || id !== session.libraryId) return
    byId.clear()
    know(fresh)
    tags.value = t.tags
    categories.value = o.categories
    statuses.value = o.statuses
    sets.value = s.sets
    desks.value = w.desks
    all.value = f
    loaded.value = id
    stamp.value++
  }

  return {
    tags,
    categories,
    statuses,
    sets,
    desks,
    all,
    loaded,
    stamp,
    talked,
    byId,
    tagById,
    categoryById,
    statusById,
    branches,
    count,
    path,
    know,
    need,
    load,
  }
})
