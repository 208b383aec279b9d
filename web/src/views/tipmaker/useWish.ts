import { reactive, watch, type Ref } from 'vue'
import type { Looked, Making, TipWork } from './useTipWork'

export type As = 'brush' | 'brushes' | 'part' | 'grain' | 'tip'
export type Kind = Making['kinds'][number]['name']
export interface Wish {
  as: As
  name: string
  kind: Kind
  size?: number
  spacing?: number
  twin: boolean
  own: boolean
  colour?: string
  opacity?: number
  first?: number
  last?: number
}

/** What is to be made of the marks; guessed from them until somebody chooses. */
export function useWish({ work, making, sheet }: TipWork, looked: Ref<Looked | undefined>) {
  const wish = reactive<Wish>({ as: 'brush', name: '', kind: 'stamp', twin: false, own: false })
  let chosen = false

  const settings = (kind: Kind) => {
    const found = making.value?.kinds.find(({ name }) => name === kind)
    return { kind, size: found?.size, spacing: found?.spacing }
  }
  function set(change: Partial<Wish>) {
    if (change.kind && change.kind !== wish.kind) {
      chosen = true
      Object.assign(change, { ...settings(change.kind), ...change })
    }
    Object.assign(wish, change)
  }
  watch(
    () => work.value?.id,
    () => {
      chosen = false
      Object.assign(wish, {
        as: 'brush',
        name: work.value?.name ?? '',
        twin: false,
        colour: undefined,
        opacity: undefined,
        first: undefined,
        last: undefined,
      })
    },
    { immediate: true },
  )
  // A signature is a stamp, a taper a ribbon, whatever their form.
  watch([looked, making, sheet], ([now]) => {
    if (!now || !making.value || chosen) return
    const made = sheet.value?.made
    const own: Kind | undefined = made?.text ? 'stamp' : made?.figure?.[0]?.shape === 'taper' ? 'ribbon' : undefined
    const guess = own ?? now.kinds[0]!
    if (guess !== wish.kind || wish.size === undefined) Object.assign(wish, settings(guess))
  })
  return { wish, set }
}
