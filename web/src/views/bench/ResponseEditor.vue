<script setup lang="ts">
import { computed, shallowRef } from 'vue'
import CurveEditor from '../../parts/CurveEditor.vue'
import NumberField from '../../parts/NumberField.vue'
import {
  answerOf,
  answerUnit,
  bends,
  freshAnswer,
  offScale,
  onScale,
  sensor,
  STRAIGHT,
  withAnswer,
  type Answer,
} from './settings'
import { useResponses, type Cell } from './useResponses'

/** The chosen cell's own curve and ends, to work on. */
const props = defineProps<{ chosen: Cell; /** Of the curve, px. */ wide: number }>()
const { bench, cell, said, titled, mayEdit } = useResponses()
const { document, goal } = bench
const copied = shallowRef<Pick<Answer, 'from' | 'to' | 'curve'>>()
const answer = computed(() => cell(...props.chosen))
const tune = (part?: Partial<Answer>, what = '') =>
  bench.tune(withAnswer(document.value!, ...props.chosen, part), what && `${props.chosen.join('|')}.${what}`)
const unit = computed(() => ({ unit: answerUnit(props.chosen[0]) }))
const least = computed(() => (unit.value.unit === '°' ? -360 : -36000))
const end = (which: 'from' | 'to', value: number) => tune({ [which]: offScale(unit.value, value) }, which)
const title = computed(() => titled(props.chosen))
function back() {
  const [drives, by] = props.chosen
  bench.tune(withAnswer(document.value!, drives, by, answerOf(goal.value, drives, by)))
}
const paste = () => copied.value && tune({ ...copied.value, curve: copied.value.curve ?? STRAIGHT })
const copy = () =>
  answer.value && (copied.value = { from: answer.value.from, to: answer.value.to, curve: answer.value.curve })

/** The shift of hue as a share of the whole circle, as painters speak of it. */
const circle = computed(() => {
  if (props.chosen[0] !== 'hue' || !answer.value) return ''
  const share = Math.abs(answer.value.to - answer.value.from) / 360
  return `${Math.round(share * 1000) / 10} % of the circle; 5 to 8 % looks like watercolour`
})
</script>

<template>
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
            >From
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
          <button v-for="(bend, name) in bends" :key="name" class="plain" @click="tune({ curve: bend(answer!.curve) })">
            {{ name }}
          </button>
          <button class="plain" @click="copy">Copy</button>
          <button class="plain" :disabled="!copied" @click="paste">Paste</button>
          <button class="plain" @click="tune()">Remove</button>
          <button v-if="bench.differsAt(...chosen)" class="plain way-back" @click="back">Reset</button>
        </div>
      </div>
    </template>
    <p v-else class="soft">
      {{ chosen[0] }} does not answer to {{ sensor(chosen[1]).word }}.
      <span class="small">{{ sensor(chosen[1]).help }}.</span><br />
      <template v-if="mayEdit">
        <button class="plain" @click="tune(freshAnswer(...chosen))">
          Let {{ chosen[0] }} respond to {{ sensor(chosen[1]).word }}
        </button>
        <button v-if="copied" class="plain" @click="paste">Paste</button>
        <button v-if="bench.differsAt(...chosen)" class="plain way-back" @click="back">Reset</button>
      </template>
    </p>
  </div>
</template>

<style scoped>
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
</style>
