import type { Directive } from 'vue'

/**
 * What the library's field with suggestions says of itself to a screen reader, put right: it names a suggestion before
 * there is one, and calls the frame around its list a list, too. The frame comes when it is first looked at.
 */
function right(el: HTMLElement) {
  const input = el.querySelector('input')
  if (input?.getAttribute('aria-activedescendant')?.endsWith('--1')) input.removeAttribute('aria-activedescendant')
  const list = document.getElementById(input?.getAttribute('aria-controls') ?? '')
  list?.closest('[role=region]')?.removeAttribute('role')
  list?.closest('.el-popper[role=listbox]')?.removeAttribute('role')
}
/** Suggestions are fetched a moment after somebody typed (ms). */
const AFTER = [50, 350, 900]
export const suggests: Directive<HTMLElement> = {
  mounted(el) {
    const soon = () => AFTER.forEach((ms) => setTimeout(() => right(el), ms))
    soon()
    for (const event of ['focusin', 'input']) el.addEventListener(event, soon)
  },
}
