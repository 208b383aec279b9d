import createClient, { type Middleware } from 'openapi-fetch'
import type { components, paths } from './schema'

export type Preset = components['schemas']['Preset']
export type Detail = components['schemas']['Detail']
export type Tag = components['schemas']['Tag']
export type BrushSet = components['schemas']['BrushSet']
export type Bundle = components['schemas']['Bundle']
export type Facets = components['schemas']['Facets']
export type Family = components['schemas']['Family']
export type Label = components['schemas']['Label']
export type Seat = components['schemas']['Seat']
export type Entry = components['schemas']['Entry']
export type Tip = components['schemas']['Tip']
export type Arrival = components['schemas']['Arrival']
export type ArrivalPlan = components['schemas']['ArrivalPlan']
export type ArrivalItem = components['schemas']['ArrivalItem']
export type Which = components['schemas']['Which']
/** A preset's settings: what each may be is said by the schema of GET /api/settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type Document = Record<string, any>

let token = ''

/** Every request that changes something carries the token of the session. */
export function useToken(value: string) {
  token = value
}

const carry: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', token)
    return request
  },
}

export const api = createClient<paths>({ baseUrl: typeof location === 'undefined' ? '' : location.origin })
api.use(carry)

/** What the server said was wrong, as a sentence for the person. */
export class Refused extends Error {
  constructor(message: string, readonly status = 0) {
    super(message)
  }
}

/** The data of an answer, or its sentence thrown. */
export async function of<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let got
  try {
    got = await answer
  } catch {
    throw new Refused('The server does not answer. What you did last is not saved yet. Check that it runs, then try again.')
  }
  if (got.data !== undefined) return got.data
  const said = (got.error as { error?: string } | undefined)?.error
  throw new Refused(said ?? `The server refused this (${got.response.status}). Nothing was changed. Try again.`, got.response.status)
}

/** A file as the body of a request, untouched. */
export const asFile = (file: Blob) => ({ body: file as unknown as string, bodySerializer: () => file, headers: { 'content-type': 'application/octet-stream' } })

/** Sends a file as it is, telling how much of it has gone; what the server says is wrong is thrown. */
export function upload(file: Blob, url: string, tell: (sent: number) => void): Promise<void> {
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest()
    request.open('PUT', url)
    request.setRequestHeader('X-CSRF-Token', token)
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.upload.onprogress = ({ loaded }) => tell(loaded)
    request.onload = () => {
      if (request.status < 300) return done()
      let said
      try { said = (JSON.parse(request.responseText) as { error?: string }).error } catch { /* not JSON */ }
      fail(new Refused(said ?? `The server refused this (${request.status}). Nothing was changed. Try again.`, request.status))
    }
    request.onerror = () => fail(new Refused('The server does not answer. What you did last is not saved yet. Check that it runs, then try again.'))
    request.send(file)
  })
}
