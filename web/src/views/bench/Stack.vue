<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, of, type Comparison, type Document } from '../../api/client'
import { useNewest } from '../../parts/newest'
import Painted from '../../parts/Painted.vue'
import type { Place } from '../../parts/paintedPlace'
import PresetPicker from '../../parts/PresetPicker.vue'
import { useScale } from '../../parts/scale'
import type { Try } from '../../parts/usePainted'
import { same } from './settings'
import TryLine from './TryLine.vue'
import { onBench } from './useBench'
import { alike } from './words'

/** The same sample stroke for the draft, the current version and baseline, and whatever is set beside them. */
defineEmits<{ adjustments: [] }>()
const bench = onBench()
const { detail, document, base, dirty, trying, middle, asTry, ask, pinned } = bench
useScale()
const pinning = ref(false)
const where = ref(false)

// --- how far they are apart: asked for the newest state only, shown only while it is the one on the screen
interface Pair {
  one: Document
  other: Document
  try: Try
  picture: boolean
}
function useCompared(shows: () => Document | undefined) {
  const found = ref<Comparison>()
  const compare = useNewest(
    async (pair: Pair) => of(api.POST('/api/libraries/{library}/comparison', { ...bench.library.path(), body: pair })),
    (answer) => {
      found.value = answer
    },
    (error) => {
      found.value = undefined
      bench.toast.problem(error)
    },
  )
  const want = (pair: Pair | undefined) => {
    if (!pair) found.value = undefined
    compare.want(pair)
  }
  // What was measured of an older state is not said of the one on the screen.
  const late = computed(
    () => !found.value || compare.shown.value?.other !== shows() || compare.shown.value?.try !== asTry.value,
  )
  return { found, want, late }
}
const draft = useCompared(() => document.value)
const current = useCompared(() => detail.value?.document)
// Measured when the hand rests: the strip comes first while a slider moves.
const measureDraft = useDebounceFn(
  () =>
    draft.want(
      dirty.value && document.value && base.value
        ? { one: base.value, other: document.value, try: asTry.value, picture: where.value }
        : undefined,
    ),
  250,
)
const measureBaseline = useDebounceFn(() => {
  const { document: now, baseline_document: baseline } = detail.value!
  current.want(
    same(now, baseline)
      ? undefined
      : { one: baseline, other: now, try: asTry.value, picture: where.value && !dirty.value },
  )
}, 250)
watch([document, base, asTry, where], measureDraft, { immediate: true })
watch([detail, asTry, where, dirty], measureBaseline, { immediate: true })

const changes = computed(() => draft.found.value?.changes.map(({ words }) => words) ?? [])
const fromBaseline = computed(() => current.found.value?.changes.map(({ words }) => words) ?? [])
const shownWhere = computed(() =>
  where.value ? (dirty.value ? draft.found.value : current.found.value)?.picture : undefined,
)
const overtaken = computed(() => bench.overtaken.value && detail.value!.draft!.base)
const origin = computed(() =>
  detail.value!.preset.baseline > 1 || detail.value!.baselines.length
    ? ''
    : detail.value!.origin === 'received'
      ? ', as received'
      : ', as made',
)

// --- zooming stays on the paint -----------------------------------------------------------------
const paint = ref<Place>({ x: 0.5, y: 0.5 })
const look = (to: Place) => Object.assign(middle, to)
watch(
  () => [trying.value.zoom > 1, trying.value.sample],
  () => look(paint.value),
)
function sawPaint(at: Place) {
  paint.value = at
  if (trying.value.zoom === 1) look(at)
}

async function choose(preset: number) {
  pinning.value = false
  await bench.pin(preset)
}
const unpin = (key: string) => (pinned.value = pinned.value.filter((pin) => pin.key !== key))
</script>

<template>
  <section class="stack" aria-label="Strokes">
    <TryLine @adjustments="$emit('adjustments')" />
    <div class="rows">
      <div class="row">
        <div>
          <b>{{ dirty ? 'Draft' : 'Now' }}</b><br /><b
            v-if="dirty"
            class="changed"
            :title="overtaken ? `yours, on version ${overtaken}` : 'yours'"
            >{{ changes.length || 1 }} {{ changes.length > 1 ? 'changes' : 'change' }}</b
          ><span v-else class="soft small">no change</span>
        </div>
        <Painted
          long
          :ask="ask(document)"
          label="the draft"
          data-test="live"
          :zoom="trying.zoom"
          :middle="middle"
          told
          @pan="look"
          @paint="sawPaint"
        />
        <div class="said">
          <template v-if="dirty">
            <span data-test="alike">{{ draft.late.value ? 'measuring…' : alike(draft.found.value!) }}</span>
            <span class="soft small words" :title="changes.join('\n')">{{ changes.join(', ') }}</span>
          </template>
          <button class="plain small" :aria-pressed="where" @click="where = !where">
            {{ where ? 'Hide differences' : 'Show differences' }}
          </button>
        </div>
      </div>
      <div v-if="shownWhere" class="row">
        <div>
          <b>Where</b><br /><span class="soft small"
            >{{ dirty ? 'draft and version' : 'version and baseline' }} differ</span
          >
        </div>
        <span class="where"><img :src="shownWhere" alt="Where the strokes differ" /></span>
        <span />
      </div>
      <div class="row">
        <div>
          <b>Version {{ detail!.preset.version }}</b
          ><br /><span class="soft small">current</span>
        </div>
        <Painted
          long
          :ask="ask(detail!.document)"
          label="the current version"
          :zoom="trying.zoom"
          :middle="middle"
          @pan="look"
        />
        <div class="said">
          <template v-if="current.found.value && detail!.preset.version !== detail!.preset.baseline"
            >{{ current.late.value ? 'measuring…' : alike(current.found.value)
            }}<span class="soft small words" :title="fromBaseline.join('\n')"
              >since baseline: {{ fromBaseline.join(', ') || 'nothing' }}</span
            ></template
          >
        </div>
      </div>
      <div class="row">
        <div>
          <b>Baseline</b><br /><span class="soft small">version {{ detail!.preset.baseline }}{{ origin }}</span>
        </div>
        <Painted
          long
          :ask="ask(detail!.baseline_document)"
          label="baseline"
          :zoom="trying.zoom"
          :middle="middle"
          @pan="look"
        />
        <div class="said">
          <button v-if="!pinning" class="plain" @click="pinning = true">+ Compare with a brush</button
          ><PresetPicker v-else label="A brush to compare with" @pick="choose" @close="pinning = false" />
        </div>
      </div>
      <div v-for="one in pinned" :key="one.key" class="row">
        <div>
          <b>{{ one.title }}</b><br /><span class="soft small">{{ one.note }}</span>
        </div>
        <Painted long :ask="ask(one.document)" :label="one.title" :zoom="trying.zoom" :middle="middle" @pan="look" />
        <div class="said"><button class="plain" @click="unpin(one.key)">Remove</button></div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.stack {
  padding: 0 16px 5px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}
.rows {
  max-height: calc(4 * (var(--strip-height) + 6px));
  overflow: auto;
  margin-top: 4px;
}
.row {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr) 206px;
  gap: 14px;
  align-items: center;
  margin-bottom: 4px;
  line-height: 1.3;
}
/* As tall as a strip whatever it says, so that nothing below moves under the hand. */
.said {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  justify-content: center;
  min-width: 0;
  height: var(--strip-height);
  overflow: hidden;
  line-height: 1.15;
}
.said > * {
  flex: none;
}
.said > button {
  padding-block: 0;
}
.words {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
.where {
  display: block;
  height: var(--strip-height);
  border: 1px solid var(--line);
  border-radius: 6px;
  background: #fff;
  overflow: hidden;
}
.where img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
</style>
