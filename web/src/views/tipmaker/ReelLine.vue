<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { onTipWork, type Frame, type Looked } from './useTipWork'
import VariantsDialog from './VariantsDialog.vue'
import OwnWord from '../../parts/OwnWord.vue'

/** The marks that were chosen, as frames in their order: seen, dragged, turned, taken out, made more of. */
const props = defineProps<{ looked?: Looked }>()
const work = onTipWork()
const { frames, at, making, state, sheet } = work
const order = ref<{ frame: Frame; was: number }[]>([])
watch(frames, (now) => (order.value = now.map((frame, was) => ({ frame, was }))), { immediate: true })
const asking = ref(false)
const list = ref<HTMLElement>()
const chosen = computed(() => frames.value[at.value])
const reel = computed(() => state.value!.reel!)
const turn = computed(() => String(reel.value.turn))
/** Rows by one turn, columns by another; as near to a square as it goes, until somebody says how many. */
const second = (value: string) =>
  work.set('reel', {
    second: (value || null) as 'in order' | null,
    columns: value ? Math.ceil(Math.sqrt(frames.value.length)) : 1,
  })
const picture = (was: number) => (frames.value.length > 1 ? props.looked?.frames[was] : props.looked?.tip)

function moved() {
  const to = order.value.findIndex(({ was }) => was === at.value)
  work.setFrames(order.value.map(({ frame }) => frame))
  at.value = Math.max(0, to)
}
/** The frame that is looked at, one place on; it stays the one. */
function shift(by: number) {
  const to = at.value + by
  if (to < 0 || to >= frames.value.length) return
  const next = [...frames.value]
  next.splice(to, 0, ...next.splice(at.value, 1))
  work.setFrames(next)
  at.value = to
}
function walk(event: KeyboardEvent, was: number) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!by || !event.altKey) return
  event.preventDefault()
  at.value = was
  shift(by)
  void nextTick(() => list.value?.querySelectorAll<HTMLElement>('.frame')[at.value]?.focus())
}
function takeOut(index: number) {
  work.setFrames(frames.value.filter((_, one) => one !== index))
  at.value = Math.max(0, Math.min(at.value, frames.value.length - 1))
}
const quarter = () => work.turnFrame(at.value, { turn: ((chosen.value!.turn ?? 0) + 90) % 360 })
const mirror = () => work.turnFrame(at.value, { mirror: chosen.value!.mirror ? null : 'across' })
const again = () => {
  const next = [...frames.value]
  next.splice(at.value + 1, 0, { ...chosen.value! })
  work.setFrames(next)
}
/** A reel of the page as it is, before anything was chosen from it. */
const whole = computed<Frame>(() => chosen.value ?? { page: 0, area: {} })
</script>

<template>
  <section ref="list" class="reel" aria-label="Frames">
    <div class="line">
      <b
        ><OwnWord v-if="frames.length > 1" word="reel">Reel</OwnWord><template v-else>Tip</template>
        <span v-if="frames.length" class="soft">({{ frames.length }})</span></b
      >
    </div>
    <VueDraggable
      v-if="frames.length"
      v-model="order"
      tag="ol"
      :animation="120"
      :force-fallback="true"
      :fallback-tolerance="4"
      @update="moved"
    >
      <li v-for="({ was }, index) in order" :key="was">
        <button
          type="button"
          class="frame"
          :aria-pressed="was === at"
          :aria-label="`Frame ${index + 1}`"
          title="Alt with ← and → moves it"
          @click="at = was"
          @keydown="walk($event, was)"
        >
          <span class="count">{{ index + 1 }}</span>
          <img v-if="picture(was)" :src="picture(was)" :alt="`Frame ${index + 1} of the reel`" draggable="false" />
        </button>
        <button type="button" class="plain out" :aria-label="`Remove frame ${index + 1}`" @click="takeOut(was)">
          ✕
        </button>
      </li>
    </VueDraggable>
    <p v-else class="soft small none">
      {{ sheet!.marks.length > 1 ? 'Nothing selected: the whole page is used.' : 'The whole page is used.' }}
    </p>
    <span class="grow" />
    <div class="line deeds">
      <template v-if="chosen">
        <template v-if="frames.length > 1">
          <button class="plain" aria-label="Move frame left" :disabled="at === 0" @click="shift(-1)">←</button>
          <button class="plain" aria-label="Move frame right" :disabled="at === frames.length - 1" @click="shift(1)">
            →
          </button>
        </template>
        <button class="plain" aria-label="Rotate frame by 90°" @click="quarter">Turn</button>
        <button class="plain" aria-label="Mirror frame" @click="mirror">Mirror</button>
        <button class="plain" aria-label="Duplicate this frame" @click="again">Duplicate</button>
      </template>
      <button class="plain" @click="asking = true">Make variants…</button>
      <label v-if="frames.length > 1" class="line small"
        >Next frame
        <el-select
          :model-value="turn"
          aria-label="How the next frame is chosen"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
          @update:model-value="work.set('reel', { turn: $event as 'in order' })"
        >
          <el-option v-for="one in making?.turns" :key="one" :value="one" :label="one" />
        </el-select>
        <template v-if="frames.length > 3">
          and
          <el-select
            :model-value="reel.second ?? ''"
            aria-label="How columns are chosen, where frames stand in rows"
            size="small"
            class="inline-select"
            :empty-values="[undefined]"
            @update:model-value="second($event)"
          >
            <el-option value="" label="One turn only" />
            <el-option v-for="one in making?.turns" :key="one" :value="one" :label="`Columns by ${one}`" />
          </el-select>
          <input
            v-if="reel.second"
            type="number"
            min="1"
            :max="frames.length"
            :value="reel.columns"
            aria-label="Frames in a row"
            @change="work.set('reel', { columns: Number(($event.target as HTMLInputElement).value) || 1 })"
          />
        </template>
      </label>
    </div>
    <VariantsDialog v-if="asking" :frame="whole" :at="at" @close="asking = false" />
  </section>
</template>

<style scoped>
.reel {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 16px 2px;
  min-width: 0;
}
ol {
  display: flex;
  gap: 8px;
  list-style: none;
  margin: 0;
  padding: 2px;
  overflow-x: auto;
}
li {
  position: relative;
  flex: none;
}
.frame {
  position: relative;
  display: grid;
  place-items: center;
  width: 52px;
  height: 52px;
  padding: 3px;
  background: var(--strip);
  border: 1px solid var(--line-strong);
  border-radius: 7px;
  cursor: pointer;
}
.frame[aria-pressed='true'] {
  outline: 2px solid var(--accent);
}
.frame img {
  max-width: 44px;
  max-height: 44px;
}
.count {
  position: absolute;
  left: 4px;
  top: 1px;
  font-size: 10px;
  font-weight: 700;
  color: #22252b;
}
.out {
  position: absolute;
  right: -2px;
  top: -4px;
  font-size: 11px;
  opacity: 0;
}
li:hover .out,
.out:focus-visible {
  opacity: 1;
}
.none {
  margin: 0;
}
.deeds {
  flex-wrap: wrap;
  justify-content: flex-end;
}
input {
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 5px;
  padding: 2px 4px;
}
</style>
