import { describe, expect, it } from 'vitest'
import { asFile, of, Refused } from '../src/api/client'

const answer = (data: unknown, error: unknown, status = 200) =>
  Promise.resolve({ data, error, response: new Response(null, { status: status === 204 ? 204 : status }) })

describe('of', () => {
  it('gives the data of an answer', async () => {
    expect(await of(answer({ id: 1 }, undefined))).toEqual({ id: 1 })
  })

  it('throws the sentence the server gave', async () => {
    await expect(of(answer(undefined, { error: 'Take another name.' }, 422))).rejects.toThrow(
      new Refused('Take another name.', 422),
    )
  })

  it('says in words when the answer holds no sentence', async () => {
    await expect(of(answer(undefined, 'gibberish', 500))).rejects.toThrow(
      /refused the request \(500\)\. Nothing was changed/,
    )
  })

  it('says what was not saved when no answer comes', async () => {
    await expect(of(Promise.reject(new TypeError('network')))).rejects.toThrow(
      /isn’t answering.*may not have been saved.*kept in this browser/,
    )
  })
})

describe('asFile', () => {
  it('sends the bytes as they are', () => {
    const file = new Blob(['abc'])
    const sent = asFile(file)
    expect([sent.bodySerializer(), sent.headers['content-type']]).toEqual([file, 'application/octet-stream'])
  })
})
