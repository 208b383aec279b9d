<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import ResponseEditor from './ResponseEditor.vue'
import ResponseGrid from './ResponseGrid.vue'
import { showsShifts } from './settings'
import { useResponses, type Cell } from './useResponses'

/** What drives what, and the chosen cell's own curve. */
const { bench, answers, mayEdit } = useResponses()
const { document, goal, counts, trying } = bench
const first = answers.value[0]
const chosen = ref<Cell>([first?.drives ?? 'size', first?.by ?? 'pressure'])
const section = ref<HTMLElement>()
const room = useElementSize(section)
/** The curve takes its share of the column, on any window. */
const wide = computed(() => Math.round(Math.min(340, Math.max(184, room.width.value * 0.45))))
const allBack = () => bench.tune({ ...document.value!, response: goal.value.response })

const shifts = computed(() => answers.value.some(({ drives }) => ['hue', 'saturation'].includes(drives)))
const hardlyShows = computed(
  () => shifts.value && document.value!.paint.colour.mode !== 'fixed' && !showsShifts(trying.value.colour),
)
const SHOWS = '#2f6f9f'
</script>

<template>
  <section ref="section" aria-label="Response" data-part="response">
    <h2>
      Response <span class="soft small">inputs and settings</span
      ><b v-if="counts.response" class="changed">{{ counts.response }}</b>
      <button
        v-if="counts.response && mayEdit"
        class="plain way-back"
        aria-label="Reset all responses"
        title="Reset all responses"
        @click="allBack"
      >
        ↩
      </button>
    </h2>
    <ResponseGrid v-model:chosen="chosen" />
    <ResponseEditor :chosen="chosen" :wide="wide" />
    <p v-if="hardlyShows" class="hint small">
      A colour shift hardly shows on the current colour.
      <button class="plain small" @click="trying.colour = SHOWS">Try it in blue</button>
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
.way-back {
  color: var(--ochre);
}
.hint {
  margin: 6px 0 0;
  color: var(--ochre);
}
</style>
