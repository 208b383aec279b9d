import { defineStore } from 'pinia'
import { api, of, Refused, type Document } from '../api/client'
import { newKey } from '../api/connection'
import { useSession } from './session'
import { useToast } from './toast'

/** One change that waits to be kept, and whether it is a step of its own. */
export interface Change {
  document: Document
  fresh: boolean
}
/** What was tuned on a brush and is not kept yet, and what it was tuned on. */
export interface Unsent {
  was: Document
  changes: Change[]
}

/** A window that has not written for this long is gone, and others keep what waits of it. */
const GONE = 5 * 60_000

/** A window's own name, which it keeps through a reload. */
function windowName(): string {
  const kept = sessionStorage.getItem('fobrel.window') ?? newKey()
  sessionStorage.setItem('fobrel.window', kept)
  return kept
}

/** What could not be kept yet waits in the browser, also through a reload. */
export const useUnsent = defineStore('unsent', () => {
  const session = useSession()
  const start = () => `fobrel.unsent.${session.person?.id}.`
  const name = (preset: number) => `${start()}${preset}.${windowName()}`

  const put = (preset: number, unsent: Unsent) =>
    localStorage.setItem(name(preset), JSON.stringify({ ...unsent, at: Date.now() }))
  const drop = (preset: number) => localStorage.removeItem(name(preset))

  /** What waits of this window, and of those that are gone. */
  function waiting(): { key: string; preset: number; unsent: Unsent }[] {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(start()))
      .flatMap((key) => {
        const [preset, from] = key.slice(start().length).split('.')
        try {
          const unsent = JSON.parse(localStorage.getItem(key)!) as Unsent & { at: number }
          return from === windowName() || Date.now() - unsent.at > GONE ? [{ key, preset: Number(preset), unsent }] : []
        } catch {
          return []
        }
      })
  }

  async function send(key: string, preset: number, { was, changes }: Unsent) {
    for (const [index, { document, fresh }] of changes.entries()) {
      await of(api.PUT('/api/presets/{id}/draft', { params: { path: { id: preset } }, body: { document, was, fresh } }))
      was = document
      localStorage.setItem(key, JSON.stringify({ was, changes: changes.slice(index + 1), at: Date.now() }))
    }
    localStorage.removeItem(key)
  }

  /** Keeps what waited here from before this page was loaded; anything refused for good is told. */
  async function keepAll() {
    for (const { key, preset, unsent } of waiting()) {
      try {
        await send(key, preset, unsent)
        useToast().done(`Your earlier changes to “${unsent.was.name}” are now saved as a draft.`)
      } catch (error) {
        const refused = error instanceof Refused && error.status > 0 && error.status !== 403
        if (refused) localStorage.removeItem(key)
        useToast().problem(error)
      }
    }
  }

  return { put, drop, keepAll }
})
