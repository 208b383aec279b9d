import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { api, awaited, of, onBegun } from '../api/client'
import type { components } from '../api/schema'
import { useLibrary } from './library'
import { useSession } from './session'
import { useToast } from './toast'

export type Task = components['schemas']['Task']

/** Long work under way for this person: it can be left, and says when it is done. */
export const useWork = defineStore('work', () => {
  const session = useSession()
  const library = useLibrary()
  const toast = useToast()
  const tasks = ref<Task[]>([])
  const open = computed(() => tasks.value.filter(({ state }) => state === 'waiting' || state === 'working'))
  let timer: ReturnType<typeof setTimeout> | undefined
  let waiting = new Map<number, (task: Task) => void>()
  let asked = 0
  /** What had ended when this page looked last; undefined before its first look. */
  let over: Set<number> | undefined

  const part = (task: Task) => (task.total ? Math.min(100, Math.round((100 * task.done) / task.total)) : 0)

  async function ended(task: Task) {
    if (awaited.has(task.id)) return
    if (task.state === 'failed') return toast.problem(new Error(task.message), true)
    if (task.kind === 'ChangeMany') await library.load()
    if (task.kind !== 'ApplyImport') return toast.done(task.message, task.entry ?? undefined)
    await library.load()
    const ended = task.import
      ? await of(api.GET('/api/imports/{id}', { params: { path: { id: task.import } } }))
      : undefined
    toast.done(task.message, ended?.entry ?? undefined)
  }

  /** Looks how far everything is, often while something is under way; also at what came in by itself. */
  async function look() {
    clearTimeout(timer)
    const id = session.libraryId
    if (!id || !session.mayEdit) return
    const mine = ++asked
    try {
      const got = await of(api.GET('/api/libraries/{library}/tasks', library.path()))
      if (mine !== asked || id !== session.libraryId) return
      const before = new Map(open.value.map((task) => [task.id, task]))
      tasks.value = got.tasks
      const known = over
      const finished = got.tasks.filter(({ state }) => state === 'done' || state === 'failed')
      over = new Set(finished.map((task) => task.id))
      for (const task of finished) {
        const done = waiting.get(task.id)
        waiting.delete(task.id)
        if (before.has(task.id) || done || (known && !known.has(task.id))) {
          await ended(task)
          done?.(task)
        }
      }
    } catch {
      // The next look may go better; the work itself goes on.
    }
    timer = setTimeout(look, open.value.length || waiting.size ? 600 : 5000)
  }

  /** Waits for a piece of work that was just begun. */
  function follow(task: Task): Promise<Task> {
    return new Promise((done) => {
      waiting.set(task.id, done)
      look()
    })
  }

  onBegun(look)
  watch(
    () => session.libraryId,
    () => {
      tasks.value = []
      waiting = new Map()
      over = undefined
      look()
    },
    { immediate: true },
  )

  return { tasks, open, part, look, follow }
})
