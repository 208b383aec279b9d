import { useEventListener, useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'
import { edgeScroll } from './edgeScroll'

/** A list that scrolls when something is dragged to its edge. */
export function useDragging(list: () => HTMLElement | undefined) {
  const dragging = ref(false)
  let pointer = 0
  useEventListener(
    window,
    ['pointermove', 'mousemove', 'touchmove'],
    (event: Event) => {
      if (dragging.value)
        pointer = 'touches' in event ? (event as TouchEvent).touches[0]!.clientY : (event as MouseEvent).clientY
    },
    { capture: true, passive: true },
  )
  const run = useIntervalFn(() => edgeScroll(list(), pointer), 24, { immediate: false })
  function begin() {
    pointer = window.innerHeight / 2
    dragging.value = true
    run.resume()
  }
  function end() {
    dragging.value = false
    run.pause()
  }

  return { begin, end }
}
