/** How moments are written everywhere. */
function written(text: string | null | undefined, parts: Intl.DateTimeFormatOptions, none: string) {
  return text ? new Date(text).toLocaleString('en-GB', { day: 'numeric', month: 'short', ...parts }) : none
}
const CLOCK = { hour: '2-digit', minute: '2-digit' } as const

/** Such as 25 Nov 2026. */
export const day = (text?: string | null, none = '') => written(text, { year: 'numeric' }, none)
/** Such as 25 Nov, 14:05, for what happened lately. */
export const moment = (text?: string | null, none = '') => written(text, CLOCK, none)
/** Such as 25 Nov 2026, 14:05. */
export const dated = (text?: string | null, none = '') => written(text, { year: 'numeric', ...CLOCK }, none)
