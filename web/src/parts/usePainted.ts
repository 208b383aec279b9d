import { onScopeDispose, ref, watch, type WatchSource } from 'vue'
import { api, of, type Document } from '../api/client'
import type { components } from '../api/schema'

export type Try = components['schemas']['Try']
export interface Ask { document: Document; beside?: number; try?: Try }

/** Waits until a picture can be shown at once, so that none is blank for a moment while a slider moves. */
async function decoded(url: string) {
  if (typeof Image === 'undefined') return
  const image = new Image()
  image.src = url
  await image.decode().catch(() => undefined)
}

/**
 * The strip of settings that are kept nowhere yet. Asks for one picture at a time and always for
 * the newest state, so that a slider never runs ahead of a queue.
 */
export function usePainted(library: () => number, wanted: WatchSource<Ask | undefined>, shape: () => 'wall' | 'bench' = () => 'wall') {
  const src = ref('')
  const problem = ref('')
  const took = ref(0)
  /** The greatest size it paints at, and the one up to which a strip shows it undiminished, px. */
  const greatest = ref(0)
  const full = ref(0)
  let newest: Ask | undefined
  let asking = false
  let stale = false

  async function ask() {
    if (!newest) return
    if (asking) return (stale = true)
    asking = true
    stale = false
    const began = performance.now()
    try {
      const answer = await api.POST('/api/libraries/{library}/strip', { params: { path: { library: library() }, query: { shape: shape() } }, body: newest, parseAs: 'blob' })
      const picture = await of(Promise.resolve(answer))
      const old = src.value
      const next = URL.createObjectURL(picture as unknown as Blob)
      await decoded(next)
      src.value = next
      if (old) setTimeout(() => URL.revokeObjectURL(old), 1000)
      took.value = Math.round(performance.now() - began)
      greatest.value = Number(answer.response.headers.get('x-greatest-size') ?? 0)
      full.value = Number(answer.response.headers.get('x-full-size') ?? 0)
      problem.value = ''
    } catch (error) {
      problem.value = (error as Error).message
    } finally {
      asking = false
      if (stale) ask()
    }
  }

  watch(wanted, (now) => {
    // A parent drawn anew hands over the same wish as another object.
    if (now && newest && now.document === newest.document && now.beside === newest.beside && now.try === newest.try) return
    newest = now
    ask()
  }, { immediate: true })
  onScopeDispose(() => src.value && URL.revokeObjectURL(src.value))
  return { src, problem, took, greatest, full }
}
