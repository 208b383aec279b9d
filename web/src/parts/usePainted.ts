import { onScopeDispose, ref, watch, type WatchSource } from 'vue'
import { api, of, type Document } from '../api/client'
import type { components } from '../api/schema'
import { useNewest } from './newest'

export type Try = components['schemas']['Try']
export interface Ask {
  document: Document
  beside?: number
  try?: Try
}

/** Waits until a picture can be shown at once, so that none is blank for a moment while a slider moves. */
async function decoded(url: string) {
  if (typeof Image === 'undefined') return
  const image = new Image()
  image.src = url
  await image.decode().catch(() => undefined)
}

/** The strip of settings that are kept nowhere yet; the last one that could be painted stays. */
export function usePainted(
  library: () => number,
  wanted: WatchSource<Ask | undefined>,
  shape: () => 'list' | 'bench' = () => 'list',
) {
  const src = ref('')
  const problem = ref('')
  const took = ref(0)
  /** The greatest size it paints at, px. */
  const greatest = ref(0)
  let asked: Ask | undefined

  async function paint(ask: Ask) {
    const began = performance.now()
    const answer = api.POST('/api/libraries/{library}/strip', {
      params: { path: { library: library() }, query: { shape: shape() } },
      body: ask,
      parseAs: 'blob',
    })
    const url = URL.createObjectURL((await of(answer)) as unknown as Blob)
    const { headers } = (await answer).response
    await decoded(url)
    return { url, ms: Math.round(performance.now() - began), size: Number(headers.get('x-greatest-size') ?? 0) }
  }

  function show({ url, ms, size }: Awaited<ReturnType<typeof paint>>) {
    const old = src.value
    src.value = url
    if (old) setTimeout(() => URL.revokeObjectURL(old), 1000)
    took.value = ms
    greatest.value = size
    problem.value = ''
  }

  const { want, behind } = useNewest(paint, show, (error) => (problem.value = error.message))
  watch(
    wanted,
    (now) => {
      // A parent drawn anew hands over the same wish as another object.
      if (now && asked && now.document === asked.document && now.beside === asked.beside && now.try === asked.try)
        return
      asked = now
      want(now)
    },
    { immediate: true },
  )
  onScopeDispose(() => src.value && URL.revokeObjectURL(src.value))
  return { src, problem, took, greatest, behind }
}
