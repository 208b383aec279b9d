import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, of, Refused, type Entry } from '../api/client'
import { useLibrary } from './library'

/** The line at the foot of the page: what was done, with its undo; or what went wrong. */
export const useToast = defineStore('toast', () => {
  const text = ref('')
  const kind = ref<'done' | 'problem'>('done')
  const entry = ref<Entry>()
  /** Counts undos, for views that show what one may have changed. */
  const undone = ref(0)
  /** How many deeds are under way that will be told here: what they change is nobody else's doing. */
  const recording = ref(0)
  let timer: ReturnType<typeof setTimeout> | undefined

  function show(message: string, what: 'done' | 'problem', undo?: Entry) {
    clearTimeout(timer)
    text.value = message
    kind.value = what
    entry.value = undo?.undoable ? undo : undefined
    timer = setTimeout(hide, what === 'done' ? 9000 : 15000)
  }
  const hide = () => (text.value = '')
  const done = (message: string, undo?: Entry) => show(message, 'done', undo)
  /** What went wrong; a sentence of our own is shown as it is. */
  const problem = (error: unknown, own = false) =>
    show(
      error instanceof Refused || (own && error instanceof Error)
        ? error.message
        : `Something went wrong: ${String(error)}. Reload it and try again.`,
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

  /** Runs a deed that the ledger writes down, reads the library anew, and tells of it with its undo. */
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
      hide()
      const { kept } = await of(api.POST('/api/ledger/{id}/undo', { params: { path: { id: one.id } } }))
      await useLibrary().load()
      undone.value++
      done(['Undone.', ...kept].join(' '))
    })

  return { text, kind, entry, undone, recording, done, problem, hide, attempt, recorded, undo }
})
