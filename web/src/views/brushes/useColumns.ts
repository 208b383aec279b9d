import { computed, type Ref } from 'vue'

/** What a strip is wide, for each pixel that it is tall. */
const SHAPE = 700 / 120
/** What the words beside a strip need; and the pick button with the gaps between. */
const WORDS = 200
const GAPS = 66
/** A row's own padding, and the room of three lines of words below a strip. */
const PADDING = 12
const LINES = 58
/** Before the room was measured. */
const UNKNOWN = 1200
/** From this width on, rows stand in two columns. */
const ROW = 620

/**
 * How the brush list fills the room there is: strips with their words beside them, in as many columns as fit; where a
 * strip leaves no room beside it, the words go below. All in px.
 */
export function useColumns(look: Ref<{ mode: 'strips' | 'rows' | 'table'; height: number }>, width: Ref<number>) {
  const inner = computed(() => Math.max(320, (width.value || UNKNOWN) - 16))
  /** The tallest strip that the room takes. */
  const tallest = computed(() => Math.floor((inner.value - PADDING) / SHAPE))
  const height = computed(() => Math.min(look.value.height, tallest.value))
  /** What a strip is wide. */
  const strip = computed(() => Math.round(height.value * SHAPE))
  /** Whether the words stand below the strip. */
  const below = computed(() => look.value.mode === 'strips' && strip.value + WORDS + GAPS > inner.value)
  const needs = computed(
    () =>
      ({ strips: strip.value + (below.value ? PADDING : WORDS + GAPS), rows: ROW, table: Infinity })[look.value.mode],
  )
  /** How many brushes stand beside each other. */
  const lanes = computed(() => Math.max(1, Math.floor(inner.value / needs.value)))
  /** What one line of brushes is tall. */
  const tall = computed(() => {
    if (look.value.mode !== 'strips') return look.value.mode === 'rows' ? 36 : 32
    return below.value ? height.value + LINES + PADDING : Math.max(height.value, 64) + PADDING
  })
  return { tallest, strip, below, lanes, tall }
}
