import { computed, onScopeDispose, shallowRef } from 'vue'

/**
 * Asks one question at a time and always the newest one next, so that what is asked while something moves
 * never runs ahead of a queue, and what is shown in the end is what was asked last.
 *
 *   const { want, behind } = useNewest(paint, (picture) => (src.value = picture))
 *   want(document)
 */
export function useNewest<Question, Answer>(
  ask: (question: Question) => Promise<Answer>,
  take: (answer: Answer, question: Question) => void | Promise<void>,
  fail: (error: Error, question: Question) => void = () => undefined,
) {
  const newest = shallowRef<Question>()
  const shown = shallowRef<Question>()
  let asking = false
  let over = false

  async function go() {
    if (asking) return
    asking = true
    while (newest.value !== undefined && newest.value !== shown.value && !over) {
      const question = newest.value
      try {
        const answer = await ask(question)
        if (!over) await take(answer, question)
      } catch (error) {
        // An older question's failure says nothing of the newest one.
        if (question === newest.value && !over) fail(error as Error, question)
      }
      shown.value = question
    }
    asking = false
  }

  function want(question: Question | undefined) {
    newest.value = question
    if (question === undefined) shown.value = undefined
    void go()
  }
  onScopeDispose(() => (over = true))
  /** Whether what is shown belongs to an older question than the newest. */
  const behind = computed(() => newest.value !== undefined && newest.value !== shown.value)
  return { want, behind, shown }
}

/**
 * Tells whether an answer is still wanted: of several questions asked one after the other, only the last
 * one's counts, whatever order the answers come in.
 *
 *   const turn = turns()
 *   const mine = turn(); const rows = await ask(); if (mine()) show(rows)
 */
export function turns() {
  let last = 0
  return () => {
    const mine = ++last
    return () => mine === last
  }
}
