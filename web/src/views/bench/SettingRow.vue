<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../../parts/NumberField.vue'
import { offScale, onScale, same, shown, type Setting } from './settings'

/** One setting: its number, slider, switch or choice, a tick where home is, and the way back. */
const props = defineProps<{ one: Setting; value: unknown; home: unknown; goal: unknown; colour: string }>()
const emit = defineEmits<{ set: [value: unknown] }>()
const number = computed(() => onScale(props.one, props.value))
/** Where home lies on the slider, 0–1; nothing where home has no such setting. */
const tick = computed(() => {
  const at = onScale(props.one, props.home)
  return typeof at === 'number' ? Math.min(1, Math.max(0, (at - props.one.least) / (props.one.most - props.one.least))) : undefined
})
const put = (value: number) => emit('set', offScale(props.one, value))
const turns = computed(() => (Array.isArray(props.value) ? (props.value as string[]) : [String(props.value)]))
function turn(index: number, choice: string) {
  const next = index === 0 ? [choice, ...turns.value.slice(1)] : choice === NONE ? [turns.value[0]!] : [turns.value[0]!, choice]
  emit('set', next.length > 1 ? next : next[0])
}
const NONE = 'no second turn'
const fixed = computed(() => (props.value as { mode: string; value?: string }) ?? { mode: 'artist' })
</script>

<template>
  <div class="setting" :class="one.kind">
    <label :title="one.help">{{ one.title }}</label>
    <el-switch v-if="one.kind === 'switch'" :model-value="(value as boolean)" :aria-label="one.title" size="small" @update:model-value="emit('set', $event)" />
    <el-select v-else-if="one.kind === 'choice'" :model-value="(value as string | null) ?? 'none'" size="small" :aria-label="one.title" @update:model-value="emit('set', $event === 'none' ? null : $event)">
      <el-option v-for="choice in one.choices" :key="choice ?? 'none'" :value="choice ?? 'none'" :label="choice ?? 'none'" />
    </el-select>
    <span v-else-if="one.kind === 'turn'" class="line">
      <el-select v-for="index in [0, 1]" :key="index" :model-value="turns[index] ?? NONE" size="small" :aria-label="index ? 'Second turn, across columns' : 'Turn'" @update:model-value="turn(index, $event)">
        <el-option v-if="index" :value="NONE" :label="NONE" /><el-option v-for="choice in one.choices" :key="choice!" :value="choice!" :label="choice!" />
      </el-select>
    </span>
    <span v-else-if="one.kind === 'colour'" class="line">
      <el-switch :model-value="fixed.mode === 'fixed'" size="small" aria-label="Fixed colour" @update:model-value="emit('set', $event ? { mode: 'fixed', value: colour } : { mode: 'artist' })" />
      <input v-if="fixed.mode === 'fixed'" type="color" aria-label="Colour" :value="fixed.value" @input="emit('set', { mode: 'fixed', value: ($event.target as HTMLInputElement).value })" />
      <span v-else class="soft">the artist’s</span>
    </span>
    <el-input v-else-if="one.kind === 'text'" :model-value="(value as string | null) ?? ''" size="small" :aria-label="one.title" maxlength="200" placeholder="none" @update:model-value="emit('set', $event || null)" />
    <template v-else>
      <div class="slide">
        <el-slider :model-value="number" :min="one.least" :max="one.most" :step="one.step" :show-tooltip="false" :aria-label="one.title" @input="put($event as number)" />
        <i v-if="tick !== undefined" class="home" :style="{ left: `calc(6px + (100% - 12px) * ${tick})` }" :title="`Home: ${shown(one, home)}`" />
      </div>
      <NumberField :model-value="number" :min="one.least" :max="one.limit" :step="one.step" :label="one.unit ? `${one.title} in ${one.unit}` : one.title" @update:model-value="put" />
      <span class="soft small unit">{{ one.unit }}</span>
    </template>
    <button v-if="!same(value, goal)" class="plain way-back" :aria-label="`${one.title} back to ${shown(one, goal)}`" :title="`Back to ${shown(one, goal)}`" @click="emit('set', goal)">↩</button>
  </div>
</template>

<style scoped>
.setting { display: grid; grid-template-columns: 88px minmax(60px, 1fr) 54px 14px 20px; gap: 7px; align-items: center; min-height: 24px; }
.setting > label { color: var(--soft); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.setting:not(.number) > :nth-child(2) { grid-column: 2 / 5; justify-self: start; }
.setting > .way-back { grid-column: 5; color: var(--ochre); font-size: 15px; line-height: 1; padding: 0 2px; }
.setting .el-select { width: 128px; }
.setting.turn .el-select { width: 92px; }
.setting input[type='color'] { width: 30px; height: 20px; padding: 0; border: 1px solid var(--line-strong); border-radius: 4px; background: none; }
.setting :deep(input[inputmode]) { width: 54px; }
.slide { position: relative; padding: 0 6px; }
.slide .el-slider { height: 22px; }
.home { position: absolute; top: 3px; width: 2px; height: 16px; transform: translateX(-50%); background: var(--ochre); pointer-events: none; border-radius: 1px; }
</style>
