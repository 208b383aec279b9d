<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef } from 'vue'
import CurveEditor from '../../parts/CurveEditor.vue'
import NumberField from '../../parts/NumberField.vue'
import { stable } from '../../parts/stable'
import { useCurves } from '../../parts/useCurves'
import {
  answerOf,
  answerUnit,
  bends,
  freshAnswer,
  offScale,
  onScale,
  sensor,
  sensors,
  shown,
  showsShifts,
  STRAIGHT,
  withAnswer,
  type Answer,
  type Point,
} from './settings'
import { onBench } from './useBench'

/** What drives what: a small curve in each cell that is in use, and the chosen cell's own to work on. */
const bench = onBench()
const { detail, document, goal, counts, trying } = bench
const first = (document.value!.response as Answer[])[0]
const chosen = ref<[drives: string, by: string]>([first?.drives ?? 'size', first?.by ?? 'pressure'])
const section = ref<HTMLElement>()
const room = useElementSize(section)
/** The curve takes its share of the column, on any window. */
const wide = computed(() => Math.round(Math.min(340, Math.max(184, room.width.value * 0.45))))
const copied = shallowRef<Pick<Answer, 'from' | 'to' | 'curve'>>()
const mayEdit = computed(() => bench.session.mayEdit)
const choices = stable(() => ({ drives: detail.value?.sheet.drives ?? [], by: sensors() }))
const answers = computed(() => document.value!.response as Answer[])
const chance = (by: string) => sensor(by).chance
const CHANCE = 'M1 12V5H8V14H14V2H20V10H26V6H32V13H39'
const W = 40,
  H = 16

// --- the grid shows what is in use, what is chosen, and what home has; the rest waits behind a + --
const used = (which: 'drives' | 'by', index: 0 | 1) =>
  new Set(
    [...answers.value, ...((goal.value.response as Answer[] | undefined) ?? [])]
      .map((one) => one[which])
      .concat(chosen.value[index]),
  )
const rows = stable(() => choices.value.drives.filter((one) => used('drives', 0).has(one)))
const columns = stable(() => choices.value.by.filter((one) => used('by', 1).has(one)))
const otherRows = computed(() => choices.value.drives.filter((one) => !rows.value.includes(one)))
const otherColumns = computed(() => choices.value.by.filter((one) => !columns.value.includes(one)))
function add(index: 0 | 1, one: string) {
  chosen.value = index === 0 ? [one, chosen.value[1]] : [chosen.value[0], one]
}

const cell = (drives: string, by: string) => answerOf({ response: answers.value }, drives, by)
const answer = computed(() => cell(...chosen.value))
/** A cell's picture: its curve between its two ends, turned over where it falls. */
const drawn = ({ from, to, curve }: Answer): Point[] => (from <= to ? curve : bends['turn over'](curve))
const { path } = useCurves(() => answers.value.map(drawn))
const line = (one: Answer) => path(drawn(one), W, H)
const said = (one: Answer) =>
  `from ${shown({ unit: answerUnit(one.drives) }, one.from)} to ${shown({ unit: answerUnit(one.drives) }, one.to)}`
const told = (drives: string, by: string) => {
  const one = cell(drives, by)
  const changed = bench.differsAt(drives, by) ? ', changed' : ''
  return `${drives} by ${sensor(by).word}, ${one ? said(one) : 'none'}${changed}`
}

// --- the chosen one ----------------------------------------------------------------------------
const tune = (part?: Partial<Answer>, what = '') =>
  bench.tune(withAnswer(document.value!, ...chosen.value, part), what && `${chosen.value.join('|')}.${what}`)
const unit = computed(() => ({ unit: answerUnit(chosen.value[0]) }))
const least = computed(() => (unit.value.unit === '°' ? -360 : -36000))
const end = (which: 'from' | 'to', value: number) => tune({ [which]: offScale(unit.value, value) }, which)
const title = computed(() => `${chosen.value[0]} by ${sensor(chosen.value[1]).word}`)
function back() {
  const [drives, by] = chosen.value
  bench.tune(withAnswer(document.value!, drives, by, answerOf(goal.value, drives, by)))
}
const allBack = () => bench.tune({ ...document.value!, response: goal.value.response })
const paste = () => copied.value && tune({ ...copied.value, curve: copied.value.curve ?? STRAIGHT })
const copy = () =>
  answer.value && (copied.value = { from: answer.value.from, to: answer.value.to, curve: answer.value.curve })

/** The shift of hue as a share of the whole circle, as painters speak of it. */
const circle = computed(() => {
  if (chosen.value[0] !== 'hue' || !answer.value) return ''
  const share = Math.abs(answer.value.to - answer.value.from) / 360
  return `${Math.round(share * 1000) / 10} % of the circle; 5 to 8 % looks like watercolour`
})
const shifts = computed(() => answers.value.some(({ drives }) => ['hue', 'saturation'].includes(drives)))
const hardlyShows = computed(
  () => shifts.value && document.value!.pigment.colour.mode !== 'fixed' && !showsShifts(trying.value.colour),
)
const SHOWS = '#2f6f9f'

function walk(event: KeyboardEvent) {
  const [row, column] = [rows.value.indexOf(chosen.value[0]), columns.value.indexOf(chosen.value[1])]
  const steps: Record<string, [number, number]> = {
    ArrowRight: [0, 1],
    ArrowLeft: [0, -1],
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
  }
  const step = steps[event.key]
  if (!step) return
  event.preventDefault()
  const held = (list: string[], at: number) => list[Math.min(list.length - 1, Math.max(0, at))]!
  chosen.value = [held(rows.value, row + step[0]), held(columns.value, column + step[1])]
  const grid = event.currentTarget as HTMLElement
  nextTick(() => grid.querySelector<HTMLElement>('[data-cell][tabindex="0"]')?.focus())
}
</script>

<template>
  <section ref="section" aria-label="Response" data-part="response">
    <h2>
      Response <span class="soft small">what drives what</span
      ><b v-if="counts.response" class="changed">{{ counts.response }}</b>
      <button
        v-if="counts.response && mayEdit"
        class="plain way-back"
        aria-label="All responses back"
        title="All responses back"
        @click="allBack"
      >
        ↩
      </button>
    </h2>
    <table role="grid" aria-label="What drives what" @keydown="walk">
      <thead>
        <tr>
          <td />
          <th v-for="by in columns" :key="by" scope="col" class="soft" :title="sensor(by).help">
            {{ sensor(by).word }}
          </th>
          <th v-if="mayEdit && otherColumns.length" class="more">
            <el-dropdown trigger="click" @command="add(1, $event)">
              <button class="plain" aria-label="Another thing that drives" title="Another thing that drives">+</button>
              <template #dropdown
                ><el-dropdown-menu
                  ><el-dropdown-item v-for="by in otherColumns" :key="by" :command="by"
                    >{{ sensor(by).word }}<span class="soft small">&nbsp; {{ sensor(by).help }}</span></el-dropdown-item
                  ></el-dropdown-menu
                ></template
              >
            </el-dropdown>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="drives in rows" :key="drives">
          <th scope="row" class="soft">{{ drives }}</th>
          <td v-for="by in columns" :key="by">
            <button
              class="cell"
              :class="{
                set: cell(drives, by),
                moved: bench.differsAt(drives, by),
                on: chosen[0] === drives && chosen[1] === by,
              }"
              :data-cell="`${drives}|${by}`"
              :tabindex="chosen[0] === drives && chosen[1] === by ? 0 : -1"
              :aria-label="told(drives, by)"
              :aria-pressed="chosen[0] === drives && chosen[1] === by"
              @click="chosen = [drives, by]"
            >
              <svg
                v-if="cell(drives, by)"
                :viewBox="`-2 -2 ${W + 4} ${H + 4}`"
                preserveAspectRatio="none"
                aria-hidden="true"
              >
                <path :d="chance(by) ? CHANCE : line(cell(drives, by)!)" />
              </svg>
              <i v-if="bench.differsAt(drives, by)">◗</i>
            </button>
          </td>
          <td v-if="mayEdit && otherColumns.length" class="more" />
        </tr>
        <tr v-if="mayEdit && otherRows.length">
          <th class="more">
            <el-dropdown trigger="click" @command="add(0, $event)">
              <button class="plain" aria-label="Another thing that is driven" title="Another thing that is driven">
                +
              </button>
              <template #dropdown
                ><el-dropdown-menu
                  ><el-dropdown-item v-for="drives in otherRows" :key="drives" :command="drives">{{
                    drives
                  }}</el-dropdown-item></el-dropdown-menu
                ></template
              >
            </el-dropdown>
          </th>
        </tr>
      </tbody>
    </table>
    <div class="editor">
      <template v-if="answer">
        <CurveEditor
          :inert="!mayEdit"
          :model-value="answer.curve"
          :label="title"
          :width="wide"
          :height="Math.round(wide * 0.79)"
          @update:model-value="tune({ curve: $event }, 'curve')"
        />
        <div>
          <p>
            <b class="title">{{ title }}</b><br /><span class="soft small"
              >{{ sensor(chosen[1]).help }}.{{ mayEdit ? ' Double-click adds a point.' : '' }}</span
            >
          </p>
          <div v-if="mayEdit" class="line">
            <label class="soft"
              >from
              <NumberField
                :model-value="onScale(unit, answer.from)"
                :min="least"
                :max="-least"
                :step="1"
                :label="`From, in ${unit.unit}`"
                @update:model-value="end('from', $event)"
            /></label>
            <label class="soft"
              >to
              <NumberField
                :model-value="onScale(unit, answer.to)"
                :min="least"
                :max="-least"
                :step="1"
                :label="`To, in ${unit.unit}`"
                @update:model-value="end('to', $event)"
            /></label>
            <span class="soft">{{ unit.unit }}</span>
          </div>
          <p v-else>{{ said(answer) }}</p>
          <p v-if="circle" class="small soft">{{ circle }}</p>
          <div v-if="mayEdit" class="deeds">
            <button
              v-for="(bend, name) in bends"
              :key="name"
              class="plain"
              @click="tune({ curve: bend(answer!.curve) })"
            >
              {{ name }}
            </button>
            <button class="plain" @click="copy">copy</button>
            <button class="plain" :disabled="!copied" @click="paste">paste</button>
            <button class="plain" @click="tune()">take out</button>
            <button v-if="bench.differsAt(...chosen)" class="plain way-back" @click="back">back</button>
          </div>
        </div>
      </template>
      <p v-else class="soft">
        {{ chosen[0] }} does not answer to {{ sensor(chosen[1]).word }}.
        <span class="small">{{ sensor(chosen[1]).help }}.</span><br />
        <template v-if="mayEdit">
          <button class="plain" @click="tune(freshAnswer(...chosen))">
            let {{ chosen[0] }} answer to {{ sensor(chosen[1]).word }}
          </button>
          <button v-if="copied" class="plain" @click="paste">paste</button>
          <button v-if="bench.differsAt(...chosen)" class="plain way-back" @click="back">back to what it was</button>
        </template>
      </p>
    </div>
    <p v-if="hardlyShows" class="hint small">
      A shift of colour hardly shows on the colour it is tried in.
      <button class="plain small" @click="trying.colour = SHOWS">try it in a blue</button>
    </p>
  </section>
</template>

<style scoped>
h2 {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
  margin: 0 0 2px;
  min-height: 22px;
}
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
thead td {
  width: 72px;
}
th {
  font-weight: 500;
  font-size: 11.5px;
  padding: 0 2px 2px 0;
  line-height: 1.15;
}
tbody th {
  text-align: left;
  width: 72px;
  white-space: nowrap;
}
tbody td {
  padding: 0;
  border: 1px solid var(--line);
}
td.more {
  border-color: transparent;
}
th.more {
  text-align: left;
}
thead th.more {
  width: 26px;
  text-align: right;
}
.more .plain {
  font-size: 15px;
  line-height: 1;
  padding: 2px 7px;
}
.cell {
  position: relative;
  display: block;
  width: 100%;
  height: 22px;
  padding: 0 2px;
  border: 0;
  background: var(--card);
  cursor: pointer;
}
.cell.set {
  background: var(--accent-wash);
}
.cell.on {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.cell svg {
  width: 100%;
  height: 18px;
  display: block;
}
.cell path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
.cell.moved path {
  stroke: var(--ochre);
}
.cell i {
  position: absolute;
  right: 1px;
  top: -1px;
  font-size: 8px;
  font-style: normal;
  color: var(--ochre);
}
.editor {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  margin-top: 8px;
}
.editor > div {
  flex: 1 1 150px;
}
.editor p {
  margin: 0 0 5px;
}
.title {
  display: inline-block;
}
.title::first-letter {
  text-transform: uppercase;
}
.editor label {
  white-space: nowrap;
}
.editor :deep(input[inputmode]) {
  width: 46px;
}
.editor .line {
  gap: 6px;
}
.deeds {
  margin: 4px 0 0 -4px;
}
.way-back {
  color: var(--ochre);
}
.hint {
  margin: 6px 0 0;
  color: var(--ochre);
}
</style>
