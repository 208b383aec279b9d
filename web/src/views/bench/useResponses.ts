import { computed } from 'vue'
import { answerOf, answerUnit, sensor, shown, type Answer } from './settings'
import { onBench } from './useBench'

/** A cell of the response grid: what is driven, and what drives it. */
export type Cell = [drives: string, by: string]

/** How the brush on the Bench answers, cell by cell. */
export function useResponses() {
  const bench = onBench()
  const answers = computed(() => bench.document.value!.response as Answer[])
  const cell = (drives: string, by: string) => answerOf({ response: answers.value }, drives, by)
  const said = (one: Answer) => {
    const unit = { unit: answerUnit(one.drives) }
    return `from ${shown(unit, one.from)} to ${shown(unit, one.to)}`
  }
  const titled = ([drives, by]: Cell) => `${drives} by ${sensor(by).word}`
  return { bench, answers, cell, said, titled, mayEdit: computed(() => bench.session.mayEdit) }
}
