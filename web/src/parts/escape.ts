/**
 * Element Plus's select swallows Escape even when its list is closed, so that a dialog with the cursor in a select
 * could not be closed by it. This hands the key on to the dialog. To be heard before the select hears it.
 */
export function passEscape(event: KeyboardEvent) {
  if (event.key !== 'Escape') return
  const field = (event.target as Element).closest?.('.el-select input')
  if (!(field instanceof HTMLInputElement) || field.getAttribute('aria-expanded') === 'true' || field.value) return
  if (!field.closest('[role=dialog]')) return
  event.stopImmediatePropagation()
  document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape' }))
}
