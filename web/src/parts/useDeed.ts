import { ref } from 'vue'

/** A deed of a form: whether it is under way, and what went wrong with it last, as a sentence. */
export function useDeed(deed: () => Promise<unknown>) {
  const busy = ref(false)
  const problem = ref('')

  async function go() {
    busy.value = true
    problem.value = ''
    try {
      await deed()
    } catch (error) {
      problem.value = (error as Error).message
    } finally {
      busy.value = false
    }
  }

  return { busy, problem, go }
}
