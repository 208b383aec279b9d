// What a person sees of the page and could do with it, for the wanderer.
window.wander ??= (() => {
  const inside = (b) => b.width > 0 && b.height > 0 && b.left >= -1 && b.top >= -1 && b.right <= innerWidth + 1 && b.bottom <= innerHeight + 1
  const middle = (e) => { const b = e.getBoundingClientRect(); return { x: Math.round(b.left + b.width / 2), y: Math.round(b.top + b.height / 2) } }
  // Nothing lies over it.
  const reachable = (e) => { const { x, y } = middle(e); const top = document.elementFromPoint(x, y); return !!top && (e === top || e.contains(top)) }
  const shown = (e) => inside(e.getBoundingClientRect()) && !e.disabled && !e.closest('[inert]') && reachable(e)
  const name = (e) => (e.getAttribute('aria-label') || e.textContent || e.getAttribute('placeholder') || e.title || e.tagName).trim().slice(0, 50)
  const where = (e) => (e.closest('[role=dialog]') ? 'dialog' : e.closest('nav') ? 'rail' : e.closest('footer') ? 'tray' : e.closest('header') ? 'head' : 'view')
  const all = (selector) => [...document.querySelectorAll(selector)].filter(shown)
  const told = (e, more = {}) => ({ name: name(e), where: where(e), ...middle(e), ...more })
  // Pressing what is chosen already, or closes by the press outside, need not change anything.
  const chosen = (e) => e.matches('[aria-pressed=true], [aria-selected=true], .on, .here, .is-active, [aria-current]') || !!e.closest('.el-select, .el-upload, label, summary')
  const scrolls = (e) => { for (let p = e.parentElement; p; p = p.parentElement) { const s = getComputedStyle(p); if (/(auto|scroll)/.test(s.overflowX + s.overflowY)) return true } return false }
  const NOT = '.who, .el-dropdown-menu__item, [aria-label="Close this message"]'
  // What would end the walk, or another's; printing is the system's own window.
  const leaves = (e) => /sign out|leave|take out|archive|shut the account|^print$/i.test(name(e))

  let changes = 0
  let waiting = 0
  new MutationObserver((list) => (changes += list.length)).observe(document.documentElement, { subtree: true, childList: true, attributes: true, characterData: true })
  const real = window.fetch
  window.fetch = (...asked) => { changes++; waiting++; return real(...asked).finally(() => waiting--) }
  // The system's own window for choosing a file is out of sight here.
  const choose = HTMLInputElement.prototype.click
  HTMLInputElement.prototype.click = function click() { changes++; return choose.call(this) }
  for (const kind of ['focusin', 'focusout', 'input', 'scroll', 'click']) if (kind !== 'click') addEventListener(kind, () => changes++, true)

  function look() {
    const bench = document.querySelector('[data-part=pad] canvas')
    const pad = bench && shown(bench) ? bench.getBoundingClientRect() : undefined
    const values = {}
    document.querySelectorAll('.bench [data-setting] input[inputmode], .bench [data-setting] [role=switch]').forEach((e) => (values[e.getAttribute('aria-label')] = e.value === 'on' ? e.getAttribute('aria-checked') ?? e.checked : e.value))
    const outside = [...document.querySelectorAll('header button, header a, nav a, footer button, .page > .head button, .bench > header button, [role=dialog] button')]
      .filter((e) => e.offsetParent !== null && !scrolls(e) && !inside(e.getBoundingClientRect()) && getComputedStyle(e).visibility !== 'hidden' && !e.closest('.el-overlay[style*="display: none"]') && !e.closest('[class*=-leave-], [class*=-enter-]')).map((e) => `${where(e)}: ${name(e)}`)
    return {
      buttons: all('button, [role=button], summary, .el-checkbox, .el-switch, .el-radio').filter((e) => !e.matches(NOT) && !leaves(e)).map((e) => told(e, { acts: e.tagName === 'BUTTON' && !chosen(e) })),
      views: all('nav a').map((e) => told(e)),
      fields: all('input:not([type=checkbox]):not([type=radio]):not([type=file]):not([type=color]):not([readonly]), textarea').map((e) => told(e)),
      sliders: all('[role=slider]').map((e) => told(e)),
      pad: pad && { x: Math.ceil(pad.left) + 2, y: Math.ceil(pad.top) + 2, width: Math.floor(pad.width) - 4, height: Math.floor(pad.height) - 4 },
      values, outside: outside.slice(0, 5), scrolled: Math.round(document.scrollingElement.scrollTop + document.scrollingElement.scrollLeft + scrollY),
      blank: !document.querySelector('main')?.innerText.trim() && !document.querySelector('form'),
    }
  }
  const at = () => `${location.href}|${document.activeElement?.outerHTML.slice(0, 80)}`
  let before = ''
  return { look, busy: () => waiting > 0, watch: () => { changes = 0; before = at() }, moved: () => changes > 0 || at() !== before }
})()
