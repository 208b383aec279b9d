import { computed, type ComputedRef } from 'vue'

/** A computed value that stays the very same object while its content does, so that what shows it is not drawn anew. */
export const stable = <T>(get: () => T): ComputedRef<T> =>
  computed<T>((old) => {
    const now = get()
    return JSON.stringify(old) === JSON.stringify(now) ? (old as T) : now
  })
