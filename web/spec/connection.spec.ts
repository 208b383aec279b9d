import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import {
  actingFor,
  loading,
  offline,
  onRole,
  patiently,
  renewals,
  signedInAgain,
  signedOut,
  useToken,
} from '../src/api/connection'

type Answer = { status: number; body?: unknown; headers?: Record<string, string> } | 'no network'
let answers: Answer[] = []
let sent: { url: string; method: string; token: string | null; key: string | null; body: string }[] = []

beforeEach(() => {
  vi.useFakeTimers()
  answers = []
  sent = []
  vi.stubGlobal('window', new EventTarget())
  vi.stubGlobal('fetch', async (asked: Request | string) => {
    const request = typeof asked === 'string' ? new Request(`http://here${asked}`) : asked
    sent.push({
      url: request.url.replace('http://here', ''),
      method: request.method,
      token: request.headers.get('x-csrf-token'),
      key: request.headers.get('idempotency-key'),
      body: request.method === 'GET' ? '' : await request.text(),
    })
    const next = answers.shift() ?? { status: 200 }
    if (next === 'no network') throw new TypeError('Failed to fetch')
    return new Response(JSON.stringify(next.body ?? {}), { status: next.status, headers: next.headers })
  })
  useToken('old')
  actingFor(7)
  signedOut.value = undefined
  offline.value = false
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const post = (path = '/api/presets/1/versions') =>
  new Request(`http://here${path}`, { method: 'POST', body: '{"a":1}' })
const settle = async () => {
  for (let i = 0; i < 30; i++) await Promise.resolve()
}

describe('a request', () => {
  it('waits for the network and is sent again as it was, under the same key', async () => {
    answers = ['no network', 'no network', { status: 201 }]
    const answer = patiently(post())
    await vi.advanceTimersByTimeAsync(300)
    expect(offline.value).toBe(true)
    const before = renewals.value
    await vi.advanceTimersByTimeAsync(2000)
    expect((await answer).status).toBe(201)
    expect([
      offline.value,
      renewals.value,
      sent.length,
      new Set(sent.map(({ key }) => key)).size,
      sent[2]!.body,
    ]).toEqual([false, before + 1, 3, 1, '{"a":1}'])
    expect(sent[0]!.key).toMatch(/^[0-9a-f]{32}$/)
  })

  it('is sent at once when another one was answered', async () => {
    answers = ['no network', 'no network', 'no network', 'no network']
    const waiting = patiently(post())
    await vi.advanceTimersByTimeAsync(3100)
    answers = [{ status: 200 }, { status: 201 }]
    expect((await patiently(new Request('http://here/api/libraries/1/sets'))).status).toBe(200)
    await vi.advanceTimersByTimeAsync(1)
    expect((await waiting).status).toBe(201)
  })

  it('is given up after two minutes, and the failure told', async () => {
    answers = Array(200).fill('no network')
    const failed = patiently(post()).catch((error: Error) => error.message)
    await vi.advanceTimersByTimeAsync(130_000)
    expect(await failed).toBe('Failed to fetch')
  })

  it('waits for the same person to sign in again, and goes out with the fresh token then', async () => {
    answers = [{ status: 401 }, { status: 201 }]
    const answer = patiently(post())
    await vi.waitFor(() => expect(signedOut.value).toEqual({ insteadOf: undefined }))
    useToken('fresh')
    signedInAgain()
    expect((await answer).status).toBe(201)
    expect(sent.map(({ token }) => token)).toEqual(['old', 'fresh'])
    expect(signedOut.value).toBeUndefined()
  })

  it('fetches the token of a session begun anew, and asks when it is somebody else’s', async () => {
    answers = [
      { status: 403, headers: { 'x-renew': 'token' } },
      { status: 200, body: { csrf: 'new', person: { id: 7, name: 'Maren' } } },
      { status: 200 },
    ]
    expect((await patiently(post())).status).toBe(200)
    expect(sent.map(({ url, token }) => [url, token])).toEqual([
      ['/api/presets/1/versions', 'old'],
      ['/api/session', null],
      ['/api/presets/1/versions', 'new'],
    ])
    answers = [
      { status: 403, headers: { 'x-renew': 'token' } },
      { status: 200, body: { csrf: 'x', person: { id: 8, name: 'Tove' } } },
    ]
    patiently(post())
    await vi.waitFor(() => expect(signedOut.value).toEqual({ insteadOf: 'Tove' }))
    signedInAgain()
    await settle()
  })

  it('asks again in a second for what is being done at this moment, and hands every other answer on', async () => {
    answers = [{ status: 425 }, { status: 200 }]
    const answer = patiently(post())
    await vi.advanceTimersByTimeAsync(1100)
    expect((await answer).status).toBe(200)
    for (const status of [403, 404, 409, 422, 500]) {
      answers = [{ status }]
      expect((await patiently(post())).status).toBe(status)
    }
  })

  it('counts as loading while a view waits, not what the page looks after by itself', async () => {
    const view = patiently(new Request('http://here/api/libraries/1/sets'))
    expect(loading.value).toBe(true)
    await view
    expect(loading.value).toBe(false)
    const own = patiently(new Request('http://here/api/libraries/1/tasks'))
    const change = patiently(new Request('http://here/api/sets/1', { method: 'PUT', body: '{}' }))
    expect(loading.value).toBe(false)
    await Promise.all([own, change])
  })

  it('carries no key where it only asks, and tells the role in the answer', async () => {
    const heard: [number, string][] = []
    onRole((library, role) => heard.push([library, role]))
    answers = [{ status: 200, headers: { 'x-role': '3 guest' } }]
    await patiently(post('/api/libraries/3/strip'))
    await patiently(new Request('http://here/api/libraries/3/sets'))
    expect([sent.map(({ key }) => key), heard]).toEqual([[null, null], [[3, 'guest']]])
  })
})
