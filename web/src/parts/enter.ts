/**
 * Enter in a field that has a list: while a choice is being made it makes it; then it does the form's deed, and does
 * not open the list again. To be asked before the field hears it.
 */
export function enter(event: KeyboardEvent, deed: () => void) {
  const target = event.target as HTMLElement
  const choosing = target.closest('.el-select')
    ? target.getAttribute('aria-expanded') === 'true'
    : !!document.querySelector('.el-autocomplete-suggestion li.highlighted')
  if (choosing || !target.closest('.el-select, .el-autocomplete')) return
  event.preventDefault()
  event.stopPropagation()
  deed()
}
