// @vitest-environment jsdom
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { passEscape } from '../src/parts/escape'

const closes = vi.fn()
const swallows = vi.fn((event: Event) => event.stopPropagation())

/** A page with one field; the select swallows every key, as Element Plus's does. */
function page(html: string) {
  document.body.innerHTML = html
  document.querySelector('.el-select')?.addEventListener('keydown', swallows)
  return document.querySelector('input')!
}
const select = (attributes = '', value = '') =>
  `<div class="el-select"><input aria-expanded="false" value="${value}" ${attributes} /></div>`
const dialog = (inside: string) => `<div role="dialog">${inside}</div>`
const press = (field: Element, key: string) => field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))

beforeEach(() => {
  window.addEventListener('keydown', passEscape, { capture: true })
  document.addEventListener('keydown', closes)
})
afterEach(() => {
  window.removeEventListener('keydown', passEscape, { capture: true })
  document.removeEventListener('keydown', closes)
  vi.clearAllMocks()
})

it('passes Escape from a closed select to its dialog, once and with its code', () => {
  press(page(dialog(select())), 'Escape')
  expect(closes.mock.calls.map(([event]) => (event as KeyboardEvent).code)).toEqual(['Escape'])
  expect(swallows).not.toHaveBeenCalled()
})

it.each([
  ['whose list is open', dialog('<div class="el-select"><input aria-expanded="true" /></div>'), 'Escape'],
  ['with a search typed into it', dialog(select('', 'fog')), 'Escape'],
  ['outside a dialog', select(), 'Escape'],
  ['for any other key', dialog(select()), 'Enter'],
])('leaves the key to a select %s', (_which, html, key) => {
  press(page(html), key)
  expect(swallows).toHaveBeenCalledOnce()
  expect(closes).not.toHaveBeenCalled()
})

it('leaves other fields of a dialog alone', () => {
  press(page(dialog('<input />')), 'Escape')
  expect(closes).toHaveBeenCalledOnce()
})
