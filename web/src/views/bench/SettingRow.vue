<script setup lang="ts">
import { computed, ref } from 'vue'
import NumberField from '../../parts/NumberField.vue'
import ColourChoice from './ColourChoice.vue'
import SettingHelp from './SettingHelp.vue'
import { offScale, onScale, same, shown, type Setting } from './settings'

/**
 * One setting: its number, slider, switch or choice, a tick where baseline is, and the way back. Those who may
 * not change it see its value.
 */
const props = defineProps<{
  one: Setting
  value: unknown
  baseline: unknown
  goal: unknown
  fixed?: boolean
  differs?: boolean
}>()
const emit = defineEmits<{ set: [value: unknown] }>()
const NONE = 'none'
const row = ref<HTMLElement>()
const number = computed(() => onScale(props.one, props.value))
/** Where baseline lies on the slider, 0–1; nothing where baseline has no such setting. */
const tick = computed(() => {
  const at = onScale(props.one, props.baseline)
  if (typeof at !== 'number') return undefined
  return Math.min(1, Math.max(0, (at - props.one.least) / (props.one.most - props.one.least)))
})
const put = (value: number) => emit('set', offScale(props.one, value))

// --- how the next frame of a reel is chosen: by one turn, or by two for rows and columns --------
const NO_SECOND = 'no second turn'
const turns = computed(() => (Array.isArray(props.value) ? (props.value as string[]) : [String(props.value)]))
function turn(index: number, choice: string) {
  const [first, second] =
    index === 0 ? [choice, turns.value[1]] : [turns.value[0]!, choice === NO_SECOND ? undefined : choice]
  emit('set', second === undefined ? first : [first, second])
}

/** Turned round by half, within what an angle may be. */
const halfTurn = () => emit('set', Number(props.value) > 0 ? Number(props.value) - 180 : Number(props.value) + 180)

const slider = () => row.value?.querySelector<HTMLElement>('[role=slider]')
const toNumber = () => row.value?.querySelector<HTMLInputElement>('input[inputmode]')?.focus()
</script>

<template>
  <div ref="row" class="setting" :class="`of-${one.kind}`" data-setting>
    <SettingHelp :one="one" />
    <span v-if="fixed" class="fixed">{{ one.kind === 'turn' ? turns.join(', ') : shown(one, value) }}</span>
    <el-switch
      v-else-if="one.kind === 'switch'"
      :model-value="value as boolean"
      :aria-label="one.title"
      size="small"
      @update:model-value="emit('set', $event)"
    />
    <el-select
      v-else-if="one.kind === 'choice'"
      :model-value="(value as string | null) ?? NONE"
      size="small"
      :aria-label="one.title"
      @update:model-value="emit('set', $event === NONE ? null : $event)"
    >
      <el-option
        v-for="{ value: choice, word } in one.choices"
        :key="choice ?? NONE"
        :value="choice ?? NONE"
        :label="word"
      />
    </el-select>
    <span v-else-if="one.kind === 'turn'" class="line">
      <el-select
        v-for="index in [0, 1]"
        :key="index"
        :model-value="turns[index] ?? NO_SECOND"
        size="small"
        :aria-label="index ? 'Second turn, across columns' : 'Turn'"
        @update:model-value="turn(index, $event)"
      >
        <el-option v-if="index" :value="NO_SECOND" :label="NO_SECOND" /><el-option
          v-for="choice in one.choices"
          :key="choice.word"
          :value="choice.value!"
          :label="choice.word"
        />
      </el-select>
    </span>
    <ColourChoice v-else-if="one.kind === 'colour'" />
    <el-input
      v-else-if="one.kind === 'text'"
      :model-value="(value as string | null) ?? ''"
      size="small"
      :aria-label="one.title"
      maxlength="200"
      placeholder="none"
      @update:model-value="emit('set', $event || null)"
    />
    <template v-else>
      <div class="slide" @keydown.enter.prevent="toNumber">
        <el-slider
          :model-value="number"
          :min="one.least"
          :max="one.most"
          :step="one.step"
          :show-tooltip="false"
          :aria-label="one.title"
          @input="put($event as number)"
        />
        <i
          v-if="tick !== undefined"
          class="baseline"
          :style="{ left: `calc(6px + (100% - 12px) * ${tick})` }"
          :title="`Baseline: ${shown(one, baseline)}`"
        />
      </div>
      <NumberField
        :model-value="number"
        :min="one.least"
        :max="one.limit"
        :step="one.step"
        :label="one.unit ? `${one.title} in ${one.unit}` : one.title"
        @update:model-value="put"
        @keydown.esc="slider()?.focus()"
      />
      <span class="soft small unit">{{ one.unit }}</span>
      <button
        v-if="one.path.at(-1) === 'angle'"
        class="plain small half"
        title="Rotate by 180°"
        aria-label="½ turn"
        @click="halfTurn"
      >
        ½ turn
      </button>
    </template>
    <button
      v-if="differs && !fixed && !same(value, goal)"
      class="plain way-back"
      :aria-label="`Reset ${one.title} to ${shown(one, goal)}`"
      :title="`Reset to ${shown(one, goal)}`"
      @click="emit('set', goal)"
    >
      ↩
    </button>
    <span v-if="one.caution" class="caution small" role="note">{{ one.caution }}</span>
  </div>
</template>

<style scoped>
.setting {
  display: grid;
  grid-template-columns: 94px minmax(60px, 1fr) 54px 16px 18px;
  gap: 0 7px;
  align-items: center;
  min-height: 23px;
}
.setting > * {
  grid-row: 1;
}
.setting > :first-child {
  grid-column: 1;
}
.setting > .slide {
  grid-column: 2;
}
.setting > :deep(input) {
  grid-column: 3;
}
.setting > .unit {
  grid-column: 4;
}
.setting:not(.of-number) > :nth-child(2),
.fixed {
  grid-column: 2 / 5;
  justify-self: start;
}
.setting > .way-back {
  grid-column: 5;
  grid-row: 1;
  color: var(--ochre);
  font-size: 15px;
  line-height: 1;
  padding: 0 2px;
}
.setting .el-select {
  width: 132px;
}
.setting.of-turn .el-select {
  width: 96px;
}
.setting :deep(input[inputmode]) {
  width: 54px;
}
.slide {
  position: relative;
  padding: 0 6px;
}
.slide .el-slider {
  height: 21px;
}
.baseline {
  position: absolute;
  top: 3px;
  width: 2px;
  height: 16px;
  transform: translateX(-50%);
  background: var(--ochre);
  pointer-events: none;
  border-radius: 1px;
}
.unit {
  white-space: nowrap;
}
.half {
  grid-column: 1;
  grid-row: 1;
  justify-self: end;
  padding: 0;
}
.setting > .caution {
  grid-row: 2;
  grid-column: 1 / 6;
  color: var(--ochre);
}
.caution::before {
  content: '◗ ';
}
</style>
