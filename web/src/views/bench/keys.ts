/** What can be done on the Bench by keys. */
export interface BenchDeeds {
  back: () => void
  forth: () => void
  save: () => void
  saveAs: () => void
  rename: () => void
  about: () => void
}

/** The parts of the Bench in the order of their keys, 1 to 8, by what finds each on the page. */
export const PARTS: [title: string, selector: string][] = [
  ['Tip', '[data-group=tip]'],
  ['Stroke', '[data-group=stroke]'],
  ['Grain', '[data-group=grain]'],
  ['Paint', '[data-group=paint]'],
  ['Extras', '[data-group=extras]'],
  ['Response', '[data-part=response] [data-cell][tabindex="0"]'],
  ['the curve', '[data-part=response] .curve circle'],
  ['the pad', '[data-part=pad] canvas'],
]

/** What is listed under “?”. */
export const BENCH_KEYS: [key: string, does: string][] = [
  ['Ctrl Z, Ctrl Shift Z', 'Undo, redo'],
  ['Ctrl S', 'Save a new version'],
  ['N', 'Save as new brush'],
  ['F2, A', 'Rename; about this brush'],
  [`1 to ${PARTS.length}`, PARTS.map(([title]) => title).join(', ')],
  ['↑ ↓ and ← →', 'Move between settings; decrease, increase'],
  ['Enter, Esc', 'Type a number; back to the slider'],
]

const isNumber = (field: Element) => field.getAttribute('inputmode') === 'decimal'
const typing = (target: Element) => !!target.closest('input, textarea, select, [contenteditable]')

/** Shows a part and puts the keyboard into it. */
function reach(index: number) {
  const part = document.querySelector<HTMLElement>(PARTS[index]![1])
  const stop = part?.matches('[tabindex], circle') ? part : (part?.querySelector<HTMLElement>('[tabindex="0"]') ?? part)
  part?.scrollIntoView({ block: 'nearest' })
  stop?.focus()
}

/** Answers a key pressed anywhere on the Bench, unless it belongs to the field or dialog it was pressed in. */
export function benchKey(event: KeyboardEvent, deeds: BenchDeeds) {
  const target = event.target as HTMLElement
  if (target.closest('[role=dialog], .el-overlay') || document.querySelector('.el-overlay-dialog [role=dialog]')) return
  const key = event.key.toLowerCase()
  const done = (deed: () => void) => {
    event.preventDefault()
    deed()
  }
  if ((event.ctrlKey || event.metaKey) && !event.altKey) {
    if (key === 's') return done(deeds.save)
    // In a text the browser's own step back is meant; in a number the brush's.
    if (typing(target) && !isNumber(target)) return
    if (key === 'z') return done(event.shiftKey ? deeds.forth : deeds.back)
    if (key === 'y') return done(deeds.forth)
    return
  }
  if (event.altKey || typing(target)) return
  if (key === 'f2') return done(deeds.rename)
  if (key === 'n') return done(deeds.saveAs)
  if (key === 'a') return done(deeds.about)
  const part = Number(key)
  if (part >= 1 && part <= PARTS.length) done(() => reach(part - 1))
}
