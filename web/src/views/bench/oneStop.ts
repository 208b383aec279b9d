import type { Directive } from 'vue'

const ROW = '[data-setting]'
const CONTROLS = '[role=slider], input, button, [tabindex]'
const MAIN = '[role=slider], [role=switch], .el-select input, input, button:not(.name)'

const rows = (group: HTMLElement) =>
  [...group.querySelectorAll<HTMLElement>(ROW)].filter((row) => row.querySelector(MAIN))
const main = (row: HTMLElement) => row.querySelector<HTMLElement>(MAIN)!
const put = (element: Element, index: string) => {
  if (element.getAttribute('tabindex') !== index) element.setAttribute('tabindex', index)
}

/** Everything in the group is passed over by Tab but one row's control. */
function arrange(group: HTMLElement, current?: HTMLElement) {
  const all = rows(group)
  const stop =
    (current && all.includes(current) ? current : undefined) ??
    all.find((row) => row.dataset.stop !== undefined) ??
    all[0]
  group.querySelectorAll(CONTROLS).forEach((control) => put(control, '-1'))
  all.forEach((row) => delete row.dataset.stop)
  if (!stop) return
  stop.dataset.stop = ''
  put(main(stop), '0')
}

function key(group: HTMLElement, event: KeyboardEvent) {
  const target = event.target as HTMLElement
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  // A number goes up and down by itself, and an open list is walked.
  if (!by || target.getAttribute('inputmode') === 'decimal' || target.getAttribute('aria-expanded') === 'true') return
  const row = target.closest<HTMLElement>(ROW)
  const next = row && rows(group)[rows(group).indexOf(row) + by]
  if (!next) return
  event.preventDefault()
  event.stopPropagation()
  arrange(group, next)
  main(next).focus()
}

const handlers = new WeakMap<HTMLElement, (event: KeyboardEvent) => void>()

/** A group of settings is one stop of the Tab key; ↑ and ↓ go from setting to setting inside it. */
export const vOneStop: Directive<HTMLElement> = {
  mounted(group) {
    const handler = (event: KeyboardEvent) => key(group, event)
    handlers.set(group, handler)
    group.addEventListener('keydown', handler, true)
    group.addEventListener('focusin', (event) => {
      const row = (event.target as HTMLElement).closest<HTMLElement>(ROW)
      if (row) arrange(group, row)
    })
    arrange(group)
  },
  updated: (group) => arrange(group),
}
