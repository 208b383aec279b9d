import { useEventListener } from '@vueuse/core'
import { shallowReactive } from 'vue'

/** Brushes in an order, with the names of the sections they stand in. */
export interface Arrangement {
  ids: number[]
  sections?: Record<string, string>
}

/**
 * Orders made by hand, sent one after the other: moves that are made while one is under way are merged into the
 * next, so that one's own quickness never looks like somebody else's change.
 *
 *   const arranged = useArranged(send, settle)
 *   arranged.put(set.id, set.preset_ids, { ids })
 *   arranged.shown(set.id)?.ids ?? set.preset_ids
 *
 * @param send carries out one order; `before` is what the server last had
 * @param settle reads the truth anew, once nothing is under way any more, or when an order was refused
 */
export function useArranged(
  send: (key: number, next: Arrangement, before: number[]) => Promise<unknown>,
  settle: () => Promise<unknown>,
) {
  interface Work {
    before: number[]
    last: Arrangement
    next?: Arrangement
    done: Promise<void>
  }
  const works = shallowReactive(new Map<number, Work>())

  async function carryOut(key: number, work: Work) {
    try {
      do {
        while (work.next) {
          const next = work.next
          work.next = undefined
          await send(key, next, work.before)
          work.before = next.ids
        }
        await settle()
        // A move that was made while the truth was read is carried out too.
      } while (work.next)
      works.delete(key)
    } catch (error) {
      works.delete(key)
      await settle().catch(() => undefined)
      throw error
    }
  }

  /** Ends when this order, and what was merged with it, was carried out; fails with what refused it. */
  function put(key: number, before: number[], next: Arrangement): Promise<void> {
    const under = works.get(key)
    if (under) {
      under.next = { ids: next.ids, sections: next.sections ?? under.next?.sections }
      works.set(key, Object.assign(under, { last: { ids: next.ids, sections: next.sections ?? under.last.sections } }))
      return under.done
    }
    const work: Work = { before: [...before], last: next, next, done: Promise.resolve() }
    works.set(key, work)
    work.done = carryOut(key, work)
    return work.done
  }

  // Nothing is lost without being asked: what is still on its way is told before the page is left.
  if (typeof window !== 'undefined')
    useEventListener(window, 'beforeunload', (event: Event) => {
      if (works.size) event.preventDefault()
    })

  return { put, shown: (key: number | undefined) => (key === undefined ? undefined : works.get(key)?.last) }
}
