import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { api, of, type Document } from '../../api/client'

/**
 * The strip of a document that is still changing. Asks for one picture at a time and always for
 * the newest state, so that a slider never runs ahead of a queue.
 */
export function useLiveStrip(library: () => number, document: Ref<Document | undefined>) {
  const src = ref('')
  const problem = ref('')
  const took = ref(0)
  let asking = false
  let stale = false

  async function ask() {
    if (asking || !document.value) return (stale = true)
    asking = true
    stale = false
    const began = performance.now()
    try {
      const picture = await of(api.POST('/api/libraries/{library}/strip', { params: { path: { library: library() }, query: { shape: 'wall' } }, body: { document: document.value }, parseAs: 'blob' }))
      const old = src.value
      src.value = URL.createObjectURL(picture as unknown as Blob)
      if (old) setTimeout(() => URL.revokeObjectURL(old), 1000)
      took.value = Math.round(performance.now() - began)
      problem.value = ''
    } catch (error) {
      problem.value = (error as Error).message
    } finally {
      asking = false
      if (stale) ask()
    }
  }

  watch(document, ask, { immediate: true })
  onScopeDispose(() => src.value && URL.revokeObjectURL(src.value))
  return { src, problem, took }
}
