/**
 * Passes Escape from a closed select to the dialog around it. Element Plus's select swallows the key even when its
 * list is closed. Listen in the capture phase, before the select does.
 */
export function passEscape(event: KeyboardEvent) {
  if (event.key !== 'Escape') return
  const field = (event.target as Element).closest?.('.el-select input')
  if (!(field instanceof HTMLInputElement) || field.getAttribute('aria-expanded') === 'true' || field.value) return
  if (!field.closest('[role=dialog]')) return
  event.stopImmediatePropagation()
  document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape' }))
}
