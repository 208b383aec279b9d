import { createGlobalState, useDark } from '@vueuse/core'

/** Whether this browser shows its pages at night; from the first page on, signed in or not. */
export const useNight = createGlobalState(() =>
  useDark({
    valueDark: 'night',
    valueLight: 'day',
    storageKey: 'fobrel.ground',
    initialValue: 'light',
    disableTransition: false,
  }),
)
