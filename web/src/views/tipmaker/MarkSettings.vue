<script setup lang="ts">
import { computed, ref } from 'vue'
import SliderLine from './SliderLine.vue'
import ToneLine from './ToneLine.vue'
import { onTipWork, type Looked } from './useTipWork'

/** The mark that is looked at, and everything that is done to it. */
const props = defineProps<{ looked?: Looked; problem: string; behind: boolean }>()
const { state, sheet, set, change, at, frames } = onTipWork()
const dark = ref(false)
const title = computed(() => {
  if (!frames.value.length) return sheet.value?.made ? 'All of it' : 'The whole page'
  return frames.value.length > 1 ? `Frame ${at.value + 1}` : 'The mark'
})
const tone = computed(() => state.value!.tone!)
const form = computed(() => state.value!.form!)
const own = computed(() => state.value!.colours !== 'tint')
const inverted = computed(() => tone.value.invert ?? !!sheet.value?.dark)
const percent = (share: number) => `${Math.round(share * 100)} %`
const raised = computed(() => {
  const { looked } = props
  if (!tone.value.solid || !looked?.before) return ''
  const was = `${percent(looked.before.greatest_cover)} at most, ${percent(looked.before.solid_share)} of it solid`
  return `Was ${was}; made solid, ${percent(looked.solid_share)} of it is.`
})
const canBeSolid = computed(
  () => !own.value && !tone.value.solid && !!props.looked && props.looked.greatest_cover < 0.98,
)
const GROUNDS = {
  keep: 'already transparent',
  unmultiply: 'remove white everywhere',
  flood: 'remove white around it',
} as const
const colours = (own: boolean) => change({ colours: own ? (sheet.value?.see_through ? 'keep' : 'unmultiply') : 'tint' })
</script>

<template>
  <section class="mark" aria-label="The mark">
    <div class="top">
      <div class="well" :class="{ dark }">
        <img v-if="looked" :src="looked.tip" alt="The mark as a tip" data-test="tip" :data-behind="behind" />
      </div>
      <div class="told">
        <b>{{ title }}</b>
        <span v-if="looked" class="soft small">{{ looked.width }} × {{ looked.height }} px here</span>
        <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
        <template v-else-if="looked">
          <p class="small" :class="looked.solid ? 'solid' : 'faint'" data-test="solidity">
            {{ looked.solid ? '●' : '◗' }} {{ looked.sentence }}
          </p>
          <p v-if="raised" class="soft small">{{ raised }}</p>
          <button v-if="canBeSolid" class="plain" @click="set('tone', { solid: true })">Make solid</button>
          <button v-if="tone.solid" class="plain" @click="set('tone', { solid: false })">Not solid</button>
        </template>
        <button v-if="own" class="plain" @click="dark = !dark">{{ dark ? 'on light' : 'on dark' }}</button>
      </div>
    </div>

    <div class="options">
      <button type="button" :aria-pressed="!own" @click="colours(false)">Uses the artist’s colour</button>
      <button type="button" :aria-pressed="own" @click="colours(true)">Keeps its own colours</button>
    </div>
    <label v-if="own" class="line small"
      >Ground
      <el-select
        :model-value="state!.colours"
        aria-label="Background removal"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
        @update:model-value="change({ colours: $event as 'keep' })"
      >
        <el-option v-for="(word, name) in GROUNDS" :key="name" :value="name" :label="word" />
      </el-select>
    </label>
    <template v-else>
      <ToneLine
        :looked="looked"
        :gamma="tone.gamma ?? 1"
        :found="tone.white === null"
        @set="(name, value) => set('tone', { [name]: value }, name)"
        @paper="set('tone', { white: null })"
      />
      <div class="options">
        <button type="button" :aria-pressed="inverted" @click="set('tone', { invert: !inverted })">Invert</button>
        <button type="button" :aria-pressed="tone.even" @click="set('tone', { even: !tone.even })">
          Even out background
        </button>
        <button
          type="button"
          :aria-pressed="tone.threshold !== null"
          @click="set('tone', { threshold: tone.threshold === null ? 0.5 : null })"
        >
          Hard pixels
        </button>
      </div>
      <SliderLine
        v-if="tone.threshold !== null"
        word="Hard from"
        :value="tone.threshold ?? 0.5"
        :most="0.99"
        :least="0.01"
        percent
        @set="set('tone', { threshold: $event }, 'threshold')"
      />
    </template>
    <SliderLine
      word="Specks below"
      :value="form.specks ?? 0"
      :most="400"
      :step="1"
      unit="px"
      @set="set('form', { specks: $event }, 'specks')"
    />
    <SliderLine
      word="Feathered edge"
      :value="form.feather ?? 0"
      :most="1"
      percent
      @set="set('form', { feather: $event }, 'feather')"
    />
    <SliderLine
      word="Margin"
      :value="form.padding ?? 0"
      :most="0.5"
      percent
      @set="set('form', { padding: $event }, 'padding')"
    />
    <SliderLine
      word="Turn"
      :value="form.turn ?? 0"
      :least="-180"
      :most="180"
      :step="1"
      unit="°"
      @set="set('form', { turn: $event }, 'turn')"
    />
    <div class="options">
      <button
        type="button"
        :aria-pressed="form.mirror === 'across'"
        @click="set('form', { mirror: form.mirror === 'across' ? null : 'across' })"
      >
        Mirror
      </button>
      <button
        type="button"
        :aria-pressed="form.centre === 'weight'"
        @click="set('form', { centre: form.centre === 'weight' ? 'middle' : 'weight' })"
      >
        Centre by weight
      </button>
      <button type="button" :aria-pressed="form.square === false" @click="set('form', { square: !form.square })">
        Keep proportions
      </button>
    </div>
    <template v-if="form.square === false">
      <SliderLine
        word="Line enters at"
        :value="form.enters ?? 0.5"
        :most="1"
        percent
        @set="set('form', { enters: $event }, 'enters')"
      />
      <SliderLine
        word="and leaves at"
        :value="form.leaves ?? 0.5"
        :most="1"
        percent
        @set="set('form', { leaves: $event }, 'leaves')"
      />
    </template>
  </section>
</template>

<style scoped>
.mark {
  display: grid;
  gap: 5px;
  align-content: start;
  overflow: auto;
  padding: 8px 16px 6px;
}
.top {
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr);
  gap: 12px;
}
.well {
  height: 112px;
  display: grid;
  place-items: center;
  padding: 6px;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 8px;
}
.well.dark {
  background: #2a2a2a;
}
.well img {
  max-width: 100px;
  max-height: 100px;
  object-fit: contain;
}
.told {
  display: grid;
  gap: 2px;
  align-content: start;
  justify-items: start;
}
.told p {
  margin: 0;
}
.solid {
  color: var(--accent);
  font-weight: 600;
}
.faint {
  color: var(--ochre);
  font-weight: 600;
}
.problem {
  color: var(--madder);
}
</style>
