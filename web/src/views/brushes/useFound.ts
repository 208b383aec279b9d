import { ref, shallowReactive, shallowRef, watch } from 'vue'
import { api, of, type Preset } from '../../api/client'
import type { Term } from '../../parts/asks'
import { useLibrary } from '../../stores/library'

const PAGE = 100

/** What a search found, read a page at a time as it comes into sight. An answer to an older question is dropped. */
export function useFound(asked: () => { q: string; order: string; set?: number }) {
  const library = useLibrary()
  const rows = shallowReactive(new Map<number, Preset>())
  const total = ref<number>()
  const tolerant = ref(false)
  /** The question as the server understood it. */
  const query = ref('')
  const terms = shallowRef<Term[]>([])
  const problem = ref('')
  let turn = 0
  let asking = new Set<number>()

  const params = () => {
    const { q, order, set } = asked()
    return { q, order: order as 'name', ...(set ? { set } : {}) }
  }

  async function page(number: number) {
    if (asking.has(number)) return
    asking.add(number)
    const mine = turn
    try {
      const got = await of(
        api.GET('/api/libraries/{library}/brushes', {
          params: { ...library.path().params, query: { ...params(), offset: number * PAGE, limit: PAGE } },
        }),
      )
      if (mine !== turn) return
      library.know(got.presets)
      got.presets.forEach((preset, index) => rows.set(number * PAGE + index, preset))
      total.value = got.total
      tolerant.value = got.tolerant
      query.value = got.query
      terms.value = got.terms
      problem.value = ''
    } catch (error) {
      if (mine !== turn) return
      problem.value = (error as Error).message
      asking.delete(number)
    }
  }

  /** Asks for the rows from first to last that are not there yet. */
  function see(first: number, last: number) {
    for (let number = Math.floor(Math.max(0, first) / PAGE); number <= Math.floor(last / PAGE); number++) page(number)
  }

  async function anew() {
    turn++
    asking = new Set()
    await page(0)
  }

  // A new question: what was shown before goes at once, so that no wrong row is ever seen.
  watch(
    () => JSON.stringify(params()),
    () => {
      rows.clear()
      total.value = undefined
      anew()
    },
    { immediate: true },
  )
  // The same question after something was changed: the rows stay until the new ones are there.
  watch(
    () => library.stamp,
    async () => {
      const shown = [...new Set([...rows.keys()].map((index) => Math.floor(index / PAGE)))]
      await anew()
      const most = total.value ?? 0
      for (const index of [...rows.keys()]) if (index >= most) rows.delete(index)
      shown
        .filter((number) => number > 0)
        .slice(-3)
        .forEach(page)
      for (const index of [...rows.keys()]) if (!asking.has(Math.floor(index / PAGE))) rows.delete(index)
    },
  )

  /** The ids of rows from first to last, wherever they are. */
  async function ids(first = 0, last = Infinity) {
    const { ids: all } = await of(
      api.GET('/api/libraries/{library}/brushes/ids', { params: { ...library.path().params, query: params() } }),
    )
    return all.slice(first, last === Infinity ? undefined : last + 1)
  }

  return { rows, total, tolerant, query, terms, problem, see, ids }
}
