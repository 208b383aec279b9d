import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { api, of, type Document } from '../../api/client'
import type { paths } from '../../api/schema'
import { useNewest } from '../../parts/newest'
import { onPad } from './onPad'

type Body = paths['/api/libraries/{library}/pad']['post']['requestBody']['content']['application/json']
export type Stroke = Body['strokes'][number]
export type Ground = NonNullable<Body['ground']>
export interface Wanted {
  document: Document
  size: [number, number]
  ground: Ground
  strokes: Stroke[]
}

/** The picture of all strokes on the pad: what lies there in the end is what was asked for last. */
export function usePadPicture(wanted: Ref<Wanted | undefined>, changed: () => void) {
  const pad = onPad()
  const picture = ref<{ url: string; count: number; took: number }>()

  async function painted({ document, size: [width, height], ground, strokes }: Wanted) {
    const body = { document, width, height, ground, strokes }
    const asked = api.POST('/api/libraries/{library}/pad', { ...pad.library.path(), parseAs: 'blob', body })
    return (await of(asked)) as unknown as Blob
  }
  async function paint(wanted: Wanted) {
    const began = performance.now()
    const png = await painted(wanted)
    const { strokes } = wanted
    return { url: URL.createObjectURL(png), count: strokes.length, took: Math.round(performance.now() - began) }
  }
  function show(painted: Awaited<ReturnType<typeof paint>>) {
    forget()
    picture.value = painted
    changed()
  }
  function forget() {
    if (picture.value) URL.revokeObjectURL(picture.value.url)
    picture.value = undefined
  }
  const { want, behind } = useNewest(paint, show, (error) => pad.toast.problem(error))
  watch(wanted, (now) => {
    want(now)
    if (now) return
    forget()
    changed()
  })
  onScopeDispose(forget)

  return { picture, behind, painted }
}
