import { computed, ref } from 'vue'

/** Whether requests are waiting for a server that does not answer. */
export const offline = ref(false)
/** Whether requests are waiting for somebody to sign in; with whoever is signed in here instead. */
export const signedOut = ref<{ insteadOf?: string }>()
/** Counts what was renewed after a break, for pictures that could not be loaded meanwhile. */
export const renewals = ref(0)

/** How long a request waits for the server before it is given up. */
export const PATIENCE = 120_000
const LONGEST_PAUSE = 3_000
/** So often a request is sent again that the server was too busy to begin. */
const TRIES = 20

let token = ''
let personId: number | undefined
let signIn: Promise<void> | undefined
let carryOn: (() => void) | undefined
let hearRole: (library: number, role: string) => void = () => undefined

/** Every request that changes something carries the token of the session. */
export const useToken = (value: string) => (token = value)
/** Whose requests these are: another person's session does not carry them out. */
export const actingFor = (id: number | undefined) => (personId = id)
/** Who wants to know what the person is in a library; every answer tells it. */
export const onRole = (listen: typeof hearRole) => (hearRole = listen)

/** Holds everything that is asked until the same person has signed in again. */
function untilSignedIn(insteadOf?: string): Promise<void> {
  signedOut.value = { insteadOf }
  signIn ??= new Promise((resolve) => {
    carryOn = resolve
  })
  return signIn
}

/** Carries out what was held. */
export function signedInAgain() {
  signedOut.value = undefined
  renewals.value++
  carryOn?.()
  signIn = carryOn = undefined
}

let leaving: AbortController | undefined
let asking = new AbortController()
const changing = new Set<Promise<unknown>>()
/** Never answered: whoever asked is leaving with the person who signs out. */
const never = () => new Promise<Response>(() => undefined)
const LONGEST_FAREWELL = 3_000

/**
 * Signs out by what is given: first what is being changed is waited for; what only asks is given up, for its
 * answer would come to nobody.
 */
export async function withoutAsking<T>(signOut: () => Promise<T>): Promise<T> {
  const longest = new Promise((done) => setTimeout(done, LONGEST_FAREWELL))
  await Promise.race([Promise.allSettled(changing), longest])
  leaving = asking
  leaving.abort()
  try {
    const got = await signOut()
    signedOut.value = signIn = carryOn = undefined
    return got
  } catch (error) {
    // Whoever stays wants what was given up.
    renewals.value++
    throw error
  } finally {
    asking = new AbortController()
    pending.value = 0
    leaving = undefined
  }
}

/** Those who pause before their next try; the first answer that comes wakes all of them. */
const pausing = new Set<() => void>()
const wake = () => [...pausing].forEach((done) => done())
if (typeof window !== 'undefined') window.addEventListener('online', wake)

const pause = (ms: number) =>
  new Promise<void>((resolve) => {
    const timer = setTimeout(done, ms)
    function done() {
      clearTimeout(timer)
      pausing.delete(done)
      resolve()
    }
    pausing.add(done)
  })

function answered() {
  if (!offline.value) return
  offline.value = false
  renewals.value++
  wake()
}

async function freshToken() {
  const answer = await fetch('/api/session')
  const state = (await answer.json()) as { csrf: string; person: { id: number; name: string } | null }
  useToken(state.csrf)
  return state.person
}

/** A session that was begun anew in another window has another token, and may be another person's. */
async function renewed() {
  const person = await freshToken()
  if (person?.id !== personId) await untilSignedIn(person?.name)
}

export const newKey = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('')

/** What only asks, though it is sent with a body: doing it twice does no harm. */
const ASKS = /\/(strip|pad|tips|comparison|curves|fit|rows|merge|differences|preview|session)$|[?&]plan=true/

/** The headers of an attempt: what proves that it is ours, and a key under which it is done once only. */
export const proof = (method: string, url: string, key: string): Record<string, string> => ({
  'X-CSRF-Token': token,
  ...(method === 'GET' || ASKS.test(url) ? {} : { 'Idempotency-Key': key }),
})

/**
 * What has to happen before a request that was answered like this can be sent again; undefined where the
 * answer is meant for whoever asked.
 */
export function again(status: number, renew: boolean, url: string, tries = 0): (() => Promise<unknown>) | undefined {
  if (url.endsWith('/api/session')) return renew ? freshToken : undefined
  // Where nobody was signed in there is nobody to sign in again.
  if (status === 401) return personId === undefined ? undefined : () => untilSignedIn()
  if (status === 403 && renew) return renewed
  // Under way already; or others are before it, and nothing was begun.
  if (status === 425 || (status === 503 && tries < TRIES)) return () => pause(1000)
  return undefined
}

/** Waits longer after each try, and says when there has been enough of it. */
export function patience(longest = PATIENCE) {
  const until = Date.now() + longest
  let wait = 400
  return async () => {
    offline.value = true
    if (Date.now() + wait > until) return false
    await pause(wait)
    wait = Math.min(wait * 2, LONGEST_PAUSE)
    return true
  }
}

/**
 * Sends a request, and sends it again when the server could not be reached, when the session has ended
 * (once somebody has signed in), and when its token was an old one.
 */
export function patiently(request: Request): Promise<Response> {
  const asks = request.method === 'GET' || ASKS.test(request.url)
  if (request.url.endsWith('/api/session')) return send(request)
  if (asks) return leaving ? never() : shownWhilePending(request, send(request, asking.signal))
  const sent = send(request)
  changing.add(sent)
  return sent.finally(() => {
    changing.delete(sent)
    changed = Date.now()
  })
}

/** What the page looks after by itself, whatever is on the screen. */
const BY_ITSELF = /\/(tasks|state|present|session|notices|strip|pad|search|live)(\b|$)/
const pending = ref(0)
/** Whether a view waits for an answer. */
export const loading = computed(() => pending.value > 0)
function shownWhilePending(request: Request, answer: Promise<Response>) {
  if (BY_ITSELF.test(new URL(request.url).pathname)) return answer
  pending.value++
  return answer.finally(() => pending.value--)
}

let changed = 0
const LATELY = 4_000
/** Whether this page changes something, or did a moment ago: then what is told of its person is its own doing. */
export const changesItself = () => changing.size > 0 || Date.now() - changed < LATELY

async function send(request: Request, whileHere?: AbortSignal): Promise<Response> {
  const key = newKey()
  const waited = patience()
  for (let tries = 0; ; tries++) {
    const attempt = new Request(request.clone())
    if (request.method !== 'GET')
      Object.entries(proof(request.method, request.url, key)).forEach((header) => attempt.headers.set(...header))
    let answer
    try {
      answer = await fetch(attempt, whileHere && { signal: AbortSignal.any([request.signal, whileHere]) })
    } catch (error) {
      if (whileHere?.aborted) return never()
      if (request.signal.aborted || !(await waited())) throw error
      continue
    }
    // The server is there, but not what it keeps everything in: as if it were away.
    if (answer.status === 503 && answer.headers.has('x-away')) {
      if (whileHere?.aborted) return never()
      if (await waited()) continue
      return answer
    }
    answered()
    const [, library, role] = answer.headers.get('x-role')?.match(/^(\d+) (\w+)$/) ?? []
    if (library) hearRole(Number(library), role!)
    const first = again(answer.status, answer.headers.has('x-renew'), request.url, tries)
    if (whileHere?.aborted) return never()
    if (!first) return answer
    await first()
  }
}
