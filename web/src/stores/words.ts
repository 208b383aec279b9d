import { shallowRef } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'

type Words = components['schemas']['Words']

const none: Words = {
  groups: [],
  method: { help: '', choices: [] },
  sensors: [],
  drives: [],
  glossary: [],
  looks: { colours: [], shapes: [] },
  plan: { states: [], decisions: [] },
  imports: [],
}
/** What the screen says that is the same for all brushes and libraries; the server says it once. */
export const words = shallowRef(none)

let reading: Promise<Words> | undefined
/** Reads the words, unless they are there or under way. */
export async function readWords() {
  if (words.value !== none) return
  reading ??= of(api.GET('/api/settings'))
  try {
    words.value = await reading
  } finally {
    reading = undefined
  }
}

/** The title of a thing among several. */
export const titled = (list: { name: string; title: string }[], name: string) =>
  list.find((one) => one.name === name)?.title ?? name
