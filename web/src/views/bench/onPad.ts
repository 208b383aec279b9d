import { inject, provide, type InjectionKey, type Ref } from 'vue'
import type { Document } from '../../api/client'
import type { Bench } from './useBench'

/** What the pad needs to know: which brush is tried, and how. */
export type PadPlace = Pick<Bench, 'library' | 'session' | 'toast' | 'trying' | 'strokesChanged'> & {
  document: Ref<Document | undefined>
  /** The brush's own, where it is kept in this library: what is painted can become its picture. */
  id?: number
}
const KEY: InjectionKey<PadPlace> = Symbol('pad')
/** Puts a brush under the pad. */
export const layUnderPad = (place: PadPlace) => provide(KEY, place)
/** The brush under the pad. */
export const onPad = () => inject(KEY)!
