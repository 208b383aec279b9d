<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import CurveEditor from '../../parts/CurveEditor.vue'
import NumberField from '../../parts/NumberField.vue'
import { useCurves } from '../../parts/useCurves'
import { stable } from '../../parts/stable'
import { answerOf, answerUnit, bends, freshAnswer, offScale, onScale, responseChoices, shown, STRAIGHT, withAnswer, type Answer, type Point } from './settings'
import { onBench } from './useBench'

/** What drives what: a small curve in each cell, and the chosen cell's own to work on. */
const bench = onBench()
const { document, goal, counts } = bench
const chosen = ref<[drives: string, by: string]>(['size', 'pressure'])
const copied = shallowRef<Pick<Answer, 'from' | 'to' | 'curve'>>()
const choices = stable(() => responseChoices(document.value!))
const answers = computed(() => document.value!.response as Answer[])
/** Sensors in the words of the grid's head. */
const HEADS: Record<string, string> = { 'tilt direction': 'lean', direction: 'way', random: 'chance', stroke: 'once', distance: 'length' }
const HELP: Record<string, string> = { 'tilt direction': 'Where the pen leans to', direction: 'Which way the line runs', random: 'Chance, anew for each mark', stroke: 'Chance, once for the whole stroke', distance: 'How far the stroke has come', time: 'How long the stroke has taken', pressure: 'How hard the pen is pressed', tilt: 'How flat the pen is held', speed: 'How quickly the pen moves' }
const chance = (by: string) => by === 'random' || by === 'stroke'
const W = 40, H = 16

const cell = (drives: string, by: string) => answerOf({ response: answers.value }, drives, by)
const answer = computed(() => cell(...chosen.value))
/** A cell's picture: its curve between its two ends, turned over where it falls. */
const drawn = ({ from, to, curve }: Answer): Point[] => (from <= to ? curve : bends['turn over'](curve))
const { path } = useCurves(() => answers.value.map(drawn))
const line = (one: Answer) => path(drawn(one), W, H)

const tune = (part?: Partial<Answer>) => bench.tune(withAnswer(document.value!, ...chosen.value, part))
const unit = computed(() => ({ unit: answerUnit(chosen.value[0]) }))
const least = computed(() => (unit.value.unit === '°' ? -360 : -36000))
const end = (which: 'from' | 'to', value: number) => tune({ [which]: offScale(unit.value, value) })
function back() {
  const [drives, by] = chosen.value
  bench.tune(withAnswer(document.value!, drives, by, answerOf(goal.value, drives, by)))
}
const allBack = () => bench.tune({ ...document.value!, response: goal.value.response })
const paste = () => copied.value && tune(copied.value)
const copy = () => answer.value && (copied.value = { from: answer.value.from, to: answer.value.to, curve: answer.value.curve })
const said = (one: Answer) => `from ${shown({ unit: answerUnit(one.drives) }, one.from)} to ${shown({ unit: answerUnit(one.drives) }, one.to)}`

function walk(event: KeyboardEvent) {
  const { drives, by } = choices.value
  const [row, column] = [drives.indexOf(chosen.value[0]), by.indexOf(chosen.value[1])]
  const steps: Record<string, [number, number]> = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }
  const step = steps[event.key]
  if (!step) return
  event.preventDefault()
  chosen.value = [drives[Math.min(drives.length - 1, Math.max(0, row + step[0]))]!, by[Math.min(by.length - 1, Math.max(0, column + step[1]))]!]
  ;(event.currentTarget as HTMLElement).querySelector<HTMLElement>(`[data-cell="${chosen.value.join('|')}"]`)?.focus()
}
</script>

<template>
  <section aria-label="Response">
    <h2>Response <span class="soft small">what drives what</span><b v-if="counts.response" class="changed">{{ counts.response }}</b>
      <button v-if="counts.response && bench.session.mayEdit" class="plain way-back" aria-label="All responses back" title="All responses back" @click="allBack">↩</button></h2>
    <table role="grid" aria-label="What drives what" @keydown="walk">
      <thead><tr><td /><th v-for="by in choices.by" :key="by" scope="col" class="soft" :title="HELP[by]">{{ HEADS[by] ?? by }}</th></tr></thead>
      <tbody>
        <tr v-for="drives in choices.drives" :key="drives">
          <th scope="row" class="soft">{{ drives }}</th>
          <td v-for="by in choices.by" :key="by">
            <button
              class="cell" :class="{ set: cell(drives, by), moved: bench.differsAt(drives, by), on: chosen[0] === drives && chosen[1] === by }" :data-cell="`${drives}|${by}`" :tabindex="chosen[0] === drives && chosen[1] === by ? 0 : -1"
              :aria-label="`${drives} by ${by}${cell(drives, by) ? `, ${said(cell(drives, by)!)}` : ', none'}${bench.differsAt(drives, by) ? ', changed' : ''}`" :aria-pressed="chosen[0] === drives && chosen[1] === by" @click="chosen = [drives, by]"
            >
              <svg v-if="cell(drives, by)" :viewBox="`-2 -2 ${W + 4} ${H + 4}`" aria-hidden="true"><path v-if="!chance(by)" :d="line(cell(drives, by)!)" /><path v-else d="M1 12V5H8V14H14V2H20V10H26V6H32V13H39" /></svg>
              <i v-if="bench.differsAt(drives, by)">◗</i>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="editor" :inert="!bench.session.mayEdit">
      <template v-if="answer">
        <CurveEditor :model-value="answer.curve" :label="`${chosen[0]} by ${chosen[1]}`" @update:model-value="tune({ curve: $event })" />
        <div>
          <p><b>{{ chosen[0] }} by {{ chosen[1] }}</b><br><span class="soft small">{{ HELP[chosen[1]] }}. Double-click adds a point.</span></p>
          <div class="line">
            <label class="soft">from <NumberField :model-value="onScale(unit, answer.from)" :min="least" :max="-least" :step="1" :label="`From, in ${unit.unit}`" @update:model-value="end('from', $event)" /></label>
            <label class="soft">to <NumberField :model-value="onScale(unit, answer.to)" :min="least" :max="-least" :step="1" :label="`To, in ${unit.unit}`" @update:model-value="end('to', $event)" /></label>
            <span class="soft">{{ unit.unit }}</span>
          </div>
          <div class="deeds">
            <button v-for="(bend, name) in bends" :key="name" class="plain" @click="tune({ curve: bend(answer!.curve) })">{{ name }}</button>
            <button class="plain" @click="copy">copy</button>
            <button class="plain" :disabled="!copied" @click="paste">paste</button>
            <button class="plain" @click="tune()">take out</button>
            <button v-if="bench.differsAt(...chosen)" class="plain way-back" @click="back">back</button>
          </div>
        </div>
      </template>
      <p v-else class="soft">{{ chosen[0] }} does not answer to {{ chosen[1] }}.
        <button class="plain" @click="tune(freshAnswer(...chosen))">let it</button>
        <button v-if="copied" class="plain" @click="tune({ ...copied, curve: copied.curve ?? STRAIGHT })">paste</button>
        <button v-if="bench.differsAt(...chosen)" class="plain way-back" @click="back">back to what it was</button>
      </p>
    </div>
  </section>
</template>

<style scoped>
h2 { display: flex; align-items: center; gap: 6px; font-size: 13px; margin: 0 0 4px; min-height: 22px; }
table { width: 100%; border-collapse: collapse; table-layout: fixed; }
thead td { width: 64px; }
th { font-weight: 500; font-size: 10.5px; letter-spacing: -0.2px; padding: 0 0 2px; white-space: nowrap; overflow: hidden; }
tbody th { text-align: left; font-size: 11.5px; width: 64px; }
tbody td { padding: 0; border: 1px solid var(--line); }
.cell { position: relative; display: block; width: 100%; height: 19px; padding: 0 2px; border: 0; background: var(--card); cursor: pointer; }
.cell.set { background: var(--accent-wash); }
.cell.on { box-shadow: inset 0 0 0 2px var(--accent); }
.cell svg { width: 100%; height: 15px; display: block; }
.cell path { fill: none; stroke: var(--accent); stroke-width: 2; }
.cell.moved path { stroke: var(--ochre); }
.cell i { position: absolute; right: 1px; top: -1px; font-size: 8px; font-style: normal; color: var(--ochre); }
.editor { display: flex; gap: 14px; margin-top: 10px; }
.editor p { margin: 0 0 6px; }
.editor p b { text-transform: capitalize; }
.editor :deep(input[inputmode]) { width: 54px; }
.deeds { margin: 6px 0 0 -4px; }
.way-back { color: var(--ochre); }
</style>
