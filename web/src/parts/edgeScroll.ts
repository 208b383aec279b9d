/** How near the edge the list begins to move, px; and how far at most in one step of 24 ms. */
const NEAR = 110
const FASTEST = 130

/** While something is dragged near the edge, the list runs on, the faster the nearer. */
export function edgeScroll(list: HTMLElement | undefined, y: number) {
  const scroller = list?.closest<HTMLElement>('[data-scrolls], .page')
  if (!scroller) return
  const { top, bottom } = scroller.getBoundingClientRect()
  const into = Math.max(top + NEAR - y, y - (bottom - NEAR), 0) / NEAR
  if (into > 0) scroller.scrollTop += Math.sign(y - (top + bottom) / 2) * FASTEST * Math.min(1, into) ** 2
}
