import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, of, Refused, type Entry } from '../api/client'
import { useLibrary } from './library'

/** Messages shown at once; a further one takes the place of the oldest. */
const MOST = 2
const SECONDS = { done: 9, problem: 15 }

export interface Message {
  id: number
  text: string
  kind: 'done' | 'problem'
  /** What can be undone. */
  entry?: Entry
}

/** The messages at the lower right: what was done, with its undo; or what went wrong. */
export const useToast = defineStore('toast', () => {
  /** The newest last. */
  const messages = shallowRef<Message[]>([])
  const newest = computed(() => messages.value.at(-1))
  let count = 0

  /** Counts undos, for views that show what one may have changed. */
  const undone = ref(0)
  /** How many deeds are under way that will be told here: what they change is nobody else's doing. */
  const recording = ref(0)

  function show(text: string, kind: Message['kind'], undo?: Entry) {
    const id = ++count
    // The same words again are the same message.
    const others = messages.value.filter((one) => one.text !== text)
    messages.value = [...others, { id, text, kind, entry: undo?.undoable ? undo : undefined }].slice(-MOST)
    setTimeout(() => hide(id), SECONDS[kind] * 1000)
  }
  const hide = (id: number) => (messages.value = messages.value.filter((one) => one.id !== id))
  const done = (message: string, undo?: Entry) => show(message, 'done', undo)
  /** What went wrong; a sentence of our own is shown as it is. */
  const problem = (error: unknown, own = false) =>
    show(
      error instanceof Refused || (own && error instanceof Error)
        ? error.message
        : `Something went wrong: ${String(error)}. Reload the page and try again.`,
      'problem',
    )

  /** Runs a deed and shows what went wrong, if anything did; tells whether it went well. */
  async function attempt(deed: () => Promise<unknown>): Promise<boolean> {
    try {
      await deed()
      return true
    } catch (error) {
      problem(error)
      return false
    }
  }

  /** Runs a deed that the history writes down, reads the library anew, and tells of it with its undo. */
  async function recorded(deed: () => Promise<{ entry: Entry }>) {
    recording.value++
    const well = await attempt(async () => {
      const { entry } = await deed()
      await useLibrary().load()
      done(entry.summary, entry)
    })
    recording.value--
    return well
  }

  const undo = (one: Entry) =>
    attempt(async () => {
      messages.value = messages.value.filter(({ entry }) => entry?.id !== one.id)
      const { kept } = await of(api.POST('/api/history/{id}/undo', { params: { path: { id: one.id } } }))
      await useLibrary().load()
      undone.value++
      done(['Undone.', ...kept].join(' '))
    })

  return { messages, newest, undone, recording, done, problem, hide, attempt, recorded, undo }
})
