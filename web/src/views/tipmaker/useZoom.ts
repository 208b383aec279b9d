import { computed, ref, watch, type Ref } from 'vue'

const MOST = 8
const EDGE = 12

/** How a page lies in its frame: fitted into it, or larger and moved about. */
export function useZoom(
  room: { width: Ref<number>; height: Ref<number> },
  sheet: () => { id: number; width: number; height: number } | undefined,
) {
  const factor = ref(1)
  const shift = ref({ x: 0, y: 0 })
  const fitted = computed(() => {
    const page = sheet()
    if (!page || !room.width.value) return 1
    return Math.min((room.width.value - 2 * EDGE) / page.width, (room.height.value - 2 * EDGE) / page.height)
  })
  /** Pixels on the screen for one of the page. */
  const scale = computed(() => fitted.value * factor.value)
  const place = computed(() => {
    const page = sheet()
    if (!page) return {}
    const width = page.width * scale.value
    const height = page.height * scale.value
    const left = (room.width.value - width) / 2 + shift.value.x
    const top = (room.height.value - height) / 2 + shift.value.y
    return { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` }
  })
  const fit = () => {
    factor.value = 1
    shift.value = { x: 0, y: 0 }
  }
  watch(() => sheet()?.id, fit)

  /** Larger or smaller around a point of the frame, px from its middle. */
  function zoom(by: number, x = 0, y = 0) {
    const next = Math.min(MOST / Math.min(fitted.value, 1), Math.max(1, factor.value * by))
    const grown = next / factor.value
    factor.value = next
    if (next === 1) return fit()
    shift.value = { x: x - (x - shift.value.x) * grown, y: y - (y - shift.value.y) * grown }
  }
  const move = (x: number, y: number) => (shift.value = { x: shift.value.x + x, y: shift.value.y + y })
  const full = () => zoom(1 / scale.value)

  return { factor, scale, place, fit, full, zoom, move }
}
