import createClient from 'openapi-fetch'
import { again, newKey, patience, patiently, proof } from './connection'
import type { components, paths } from './schema'

export type Preset = components['schemas']['Preset']
export type Detail = components['schemas']['Detail']
export type Tag = components['schemas']['Tag']
export type BrushSet = components['schemas']['BrushSet']
export type Bundle = components['schemas']['Bundle']
export type Facets = components['schemas']['Facets']
export type Category = components['schemas']['Category']
export type Status = components['schemas']['Status']
export type Desk = components['schemas']['Desk']
export type Entry = components['schemas']['Entry']
export type Import = components['schemas']['Import']
export type ImportPlan = components['schemas']['ImportPlan']
export type ImportItem = components['schemas']['ImportItem']
export type Which = components['schemas']['Which']
export type Comparison = components['schemas']['Comparison']
/** A preset's settings: what each may be is said by the schema of GET /api/settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type Document = Record<string, any>

export const api = createClient<paths>({
  baseUrl: typeof location === 'undefined' ? '' : location.origin,
  fetch: patiently,
})

/** What the server said was wrong, as a sentence for the person. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status = 0,
  ) {
    super(message)
  }
}

/** No answer came, for as long as one waits for it. */
const silence = () =>
  new Refused(
    'The server isn’t answering. Your last action may not have been saved: check it once the server ' +
      'is back. Unsaved settings are kept in this browser.',
  )
const refusal = (said: string | undefined, status: number) =>
  new Refused(said ?? `The server refused the request (${status}). Nothing was changed. Try again.`, status)

type Begun = { begun: components['schemas']['Task'] }
type Answer<T> = Promise<{ data?: T; error?: unknown; response: Response }>

/** Long work that somebody in this page waits for, and will tell of. */
export const awaited = new Set<number>()
let hearBegun = () => {}
/** Who wants to know when long work was begun. */
export const onBegun = (listen: typeof hearBegun) => (hearBegun = listen)
const PAUSE = 500

async function said<T>(answer: Answer<T>): Promise<{ data: T; status: number }> {
  let got
  try {
    got = await answer
  } catch {
    throw silence()
  }
  if (got.data !== undefined) return { data: got.data, status: got.response.status }
  throw refusal((got.error as { error?: string } | undefined)?.error, got.response.status)
}

/** The data of an answer, or its sentence thrown. Where that takes long, what comes of it in the end. */
export async function of<T>(answer: Answer<T>): Promise<Exclude<T, Begun>> {
  const { data, status } = await said(answer)
  const task = status === 202 ? (data as Partial<Begun>).begun : undefined
  return (task ? await outcome(task.id) : data) as Exclude<T, Begun>
}

/** What comes of long work in the end. */
export async function outcome(id: number): Promise<unknown> {
  awaited.add(id)
  hearBegun()
  for (;;) {
    const { data } = await said(api.GET('/api/tasks/{id}', { params: { path: { id } } }))
    if (data.state === 'failed') throw new Refused(data.message)
    if (data.state === 'done') return data.result
    await new Promise((done) => setTimeout(done, PAUSE))
  }
}

/** A file as the body of a request, untouched. */
export const asFile = (file: Blob) => ({
  body: file as unknown as string,
  bodySerializer: () => file,
  headers: { 'content-type': 'application/octet-stream' },
})

interface Sent {
  status: number
  text: string
  renew: boolean
}

/** One try at sending a file; undefined when no answer came. */
function attempt(file: Blob, url: string, key: string, tell: (sent: number) => void): Promise<Sent | undefined> {
  return new Promise((done) => {
    const request = new XMLHttpRequest()
    request.open('PUT', url)
    Object.entries(proof('PUT', url, key)).forEach(([name, value]) => request.setRequestHeader(name, value))
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.upload.onprogress = ({ loaded }) => tell(loaded)
    request.onload = () =>
      done({ status: request.status, text: request.responseText, renew: !!request.getResponseHeader('x-renew') })
    request.onerror = () => done(undefined)
    request.send(file)
  })
}

/** Whether a file is still there: it lies on somebody's disk, and may be moved meanwhile. */
const readable = (file: Blob) =>
  file
    .slice(0, 1)
    .arrayBuffer()
    .then(
      () => true,
      () => false,
    )

/** Sends a file as it is, telling how much of it has gone; what the server says is wrong is thrown. */
export async function upload(file: Blob, url: string, tell: (sent: number) => void): Promise<void> {
  const key = newKey()
  const waited = patience()
  for (let tries = 0; ; tries++) {
    const sent = await attempt(file, url, key, tell)
    if (!sent) {
      if (!(await readable(file)))
        throw new Refused(
          `${file instanceof File ? `“${file.name}”` : 'The file'} cannot be read any more: it was moved, changed ` +
            'or moved since you chose it. Nothing was imported. Choose it again.',
        )
      if (await waited()) continue
      throw silence()
    }
    if (sent.status < 300) return
    const first = again(sent.status, sent.renew, url, tries)
    if (!first) throw refusal(sentence(sent.text), sent.status)
    await first()
  }
}

function sentence(text: string) {
  try {
    return (JSON.parse(text) as { error?: string }).error
  } catch {
    return undefined // not JSON
  }
}
