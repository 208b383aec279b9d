import { computed, ref } from 'vue'

/** A square on a picture, in pixels of the picture: moved, made larger and smaller, never beside it. */
export function useSquare() {
  const width = ref(1)
  const height = ref(1)
  const left = ref(0)
  const top = ref(0)
  const side = ref(1)
  const LEAST = 8

  const within = (value: number, most: number) => Math.min(Math.max(value, 0), Math.max(most, 0))
  function to(x: number, y: number) {
    left.value = within(x, width.value - side.value)
    top.value = within(y, height.value - side.value)
  }
  /** Another size, its middle where it is as far as there is room. */
  function grow(next: number) {
    const before = side.value
    const most = Math.min(width.value, height.value)
    side.value = Math.min(Math.max(next, Math.min(LEAST, most)), most)
    to(left.value + (before - side.value) / 2, top.value + (before - side.value) / 2)
  }
  /** The largest in the middle of another picture. */
  function begin(wide: number, high: number) {
    width.value = wide
    height.value = high
    side.value = Math.min(wide, high)
    to((wide - side.value) / 2, (high - side.value) / 2)
  }
  /** As the server takes it: left and top as shares of width and height, side as a share of the width. */
  const shares = computed(() => ({
    left: left.value / width.value,
    top: top.value / height.value,
    side: side.value / width.value,
  }))

  return { width, height, left, top, side, to, grow, begin, shares }
}
