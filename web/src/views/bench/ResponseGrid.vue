<script setup lang="ts">
import { computed, nextTick } from 'vue'
import { stable } from '../../parts/stable'
import { useCurves } from '../../parts/useCurves'
import { bends, sensor, sensors, type Answer, type Point } from './settings'
import { useResponses, type Cell } from './useResponses'

/** What drives what: a small curve in each cell that is in use. */
const chosen = defineModel<Cell>('chosen', { required: true })
const { bench, answers, cell, said, titled, mayEdit } = useResponses()
const { detail, goal } = bench
const choices = stable(() => ({ drives: detail.value?.sheet.drives ?? [], by: sensors() }))
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

/** A cell's picture: its curve between its two ends, turned over where it falls. */
const drawn = ({ from, to, curve }: Answer): Point[] => (from <= to ? curve : bends['Invert'](curve))
const { path } = useCurves(() => answers.value.map(drawn))
const line = (one: Answer) => path(drawn(one), W, H)
const told = (drives: string, by: string) => {
  const one = cell(drives, by)
  const changed = bench.differsAt(drives, by) ? ', changed' : ''
  return `${titled([drives, by])}, ${one ? said(one) : 'none'}${changed}`
}

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
  <table role="grid" aria-label="Inputs and settings" @keydown="walk">
    <thead>
      <tr>
        <td />
        <th v-for="by in columns" :key="by" scope="col" class="soft" :title="sensor(by).help">
          {{ sensor(by).word }}
        </th>
        <th v-if="mayEdit && otherColumns.length" class="more">
          <el-dropdown trigger="click" @command="add(1, $event)">
            <button class="plain" aria-label="Add an input" title="Add an input">+</button>
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
            <button class="plain" aria-label="Add a setting" title="Add a setting">+</button>
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
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
thead td {
  width: 72px;
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
</style>
