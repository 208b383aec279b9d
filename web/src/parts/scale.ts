import {
  computed,
  inject,
  onScopeDispose,
  provide,
  shallowReactive,
  watch,
  type ComputedRef,
  type InjectionKey,
} from 'vue'

interface Scale {
  sizes: Map<symbol, number>
  beside: ComputedRef<number>
}
const KEY: InjectionKey<Scale> = Symbol('scale')
const STEP = 1.25

/**
 * The size, px, for which strips shown together are painted: that of the largest brush among them, in
 * steps, so that a slider does not have all of them painted anew at every move; 0 where all are of one size.
 */
export function besideOf(sizes: number[]): number {
  const [most, least] = [Math.max(...sizes), Math.min(...sizes)]
  return sizes.length < 2 || most === least ? 0 : Math.round(STEP ** Math.ceil(Math.log(most) / Math.log(STEP)))
}

/** Puts all strips below this component on one scale, so that their sizes can be compared. */
export function useScale() {
  const sizes = shallowReactive(new Map<symbol, number>())
  provide(KEY, { sizes, beside: computed(() => besideOf([...sizes.values()])) })
}

/** The scale that a strip stands on; it brings the greatest size, px, it paints at, once that is known. */
export function onScale(size: () => number | undefined): ComputedRef<number> {
  const scale = inject(KEY, undefined)
  if (!scale) return computed(() => 0)
  const key = Symbol('strip')
  watch(size, (now) => (now ? scale.sizes.set(key, now) : scale.sizes.delete(key)), { immediate: true })
  onScopeDispose(() => scale.sizes.delete(key))
  return scale.beside
}
