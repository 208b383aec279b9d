<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import PresetPicker from '../../parts/PresetPicker.vue'
import { useWork } from '../../stores/work'
import SliderLine from './SliderLine.vue'
import type { As, Wish } from './useWish'
import { onTipWork } from './useTipWork'

/** What the marks become, in plain words; and the deed. */
const props = defineProps<{ wish: Wish; ready: boolean }>()
const emit = defineEmits<{ set: [change: Partial<Wish>] }>()
const work = onTipWork()
const { frames, making, state } = work
const tasks = useWork()
const router = useRouter()
const busy = ref(false)
const route = useRoute()
const preset = ref<number | undefined>(Number(route.query.brush) || undefined)
if (preset.value) emit('set', { as: 'tip' })
const several = computed(() => frames.value.length > 1)
const ways = computed<{ as: As; word: string }[]>(() => [
  ...(several.value ? [{ as: 'brush' as const, word: `a brush with a reel of ${frames.value.length}` }] : []),
  several.value ? { as: 'brushes', word: `${frames.value.length} brushes` } : { as: 'brush' as const, word: 'a brush' },
  { as: 'part', word: several.value ? `${frames.value.length} parts` : 'a part' },
  { as: 'grain', word: 'a grain' },
  { as: 'tip', word: 'a brush’s new tip' },
])
watch(
  several,
  (now) => {
    if (now ? props.wish.as === 'brush' : props.wish.as === 'brushes') emit('set', { as: 'brush' })
  },
  { immediate: true },
)
const presetName = computed(() => work.library.byId.get(preset.value ?? 0)?.name ?? 'this brush')
if (preset.value) work.library.need([preset.value])
const kind = computed(() => making.value?.kinds.find(({ name }) => name === props.wish.kind))
const brush = computed(() => props.wish.as === 'brush' || props.wish.as === 'brushes')
const kept = computed(() => {
  if (props.wish.as === 'part') return 'Saved under Tips and grains, not as a brush.'
  if (props.wish.as === 'grain') return 'A seamless grain for any brush.'
  if (props.wish.as === 'tip') return 'Saved as your draft; nothing changes for others.'
  const frames_ = several.value && props.wish.as === 'brush' ? 'pictures in order' : 'the tip'
  const colours = state.value!.colours === 'tint' ? '' : ', its own colours'
  return `Kept: ${frames_}${colours}, ${kind.value?.kept ?? 'size, spacing, answer to pressure'}.`
})
const deed = computed(
  () =>
    ({
      brush: 'Save brush',
      brushes: `Save ${frames.value.length} brushes`,
      part: several.value ? 'Save tips' : 'Save tip',
      grain: 'Save grain',
      tip: 'Use this tip',
    })[props.wish.as],
)
const able = computed(
  () => props.ready && !busy.value && (props.wish.as === 'tip' ? !!preset.value : !!props.wish.name.trim()),
)

async function save() {
  if (!able.value) return
  busy.value = true
  await work.toast.attempt(async () => {
    await work.settled()
    const { kind, twin, own, name, colour, opacity, as, first, last } = props.wish
    const size = brush.value ? props.wish.size : undefined
    const spacing = brush.value ? props.wish.spacing : undefined
    // A twin is a brush of its own.
    const paired = brush.value && kind === 'texture' && twin
    const body = {
      state: state.value!,
      wish: {
        as: paired ? ('brushes' as const) : as,
        name,
        ...(brush.value ? { kind, size, spacing, colour, opacity, ...(kind === 'ribbon' ? { first, last } : {}) } : {}),
        ...(paired || as === 'grain' ? { twin } : {}),
        ...(as === 'part' || as === 'grain' ? { own } : {}),
        ...(as === 'tip' ? { preset_id: preset.value } : {}),
      },
    }
    const task = await of(api.POST('/api/works/{id}/save', { ...work.path(), body }))
    const done = await tasks.follow(task)
    const made = done.made?.presets ?? []
    if (done.state !== 'done') return
    await work.library.load()
    if (as === 'tip' || (as === 'brush' && made.length === 1 && !opacity && !colour))
      await router.push({ name: 'bench', params: { id: made[0] } })
    else emit('set', { name: following(name) })
  })
  busy.value = false
}
/** The next variation of a name takes the next number. */
function following(name: string) {
  const number = name.match(/\s(\d{1,6})$/)?.[1]
  return number ? name.replace(/\d+$/, String(Number(number) + 1)) : `${name} 2`
}
const COLOURS = [
  ['', 'the artist’s'],
  ['#ffffff', 'white'],
  ['#000000', 'black'],
] as const
</script>

<template>
  <form class="becomes" aria-label="Save as" @submit.prevent="save">
    <div class="options">
      <button
        v-for="one in ways"
        :key="one.word"
        type="button"
        :aria-pressed="wish.as === one.as"
        @click="$emit('set', { as: one.as })"
      >
        {{ one.word }}
      </button>
    </div>
    <div v-if="wish.as === 'tip'" class="line">
      <b v-if="preset">{{ presetName }}</b>
      <PresetPicker :label="preset ? 'another brush' : 'Which brush?'" @pick="preset = $event" />
    </div>
    <el-input
      v-else
      :model-value="wish.name"
      placeholder="Name"
      aria-label="Name"
      maxlength="100"
      @update:model-value="$emit('set', { name: $event })"
    />
    <template v-if="brush">
      <SliderLine
        word="Size"
        :value="wish.size ?? 40"
        :least="4"
        :most="400"
        :step="1"
        unit="px"
        @set="$emit('set', { size: $event })"
      />
      <SliderLine
        v-if="wish.kind !== 'ribbon'"
        word="Spacing"
        :value="wish.spacing ?? 0.25"
        :least="0.02"
        :most="3"
        percent
        @set="$emit('set', { spacing: $event })"
      />
      <template v-if="wish.kind === 'ribbon'">
        <SliderLine
          word="First end kept"
          :value="wish.first ?? 0"
          :most="0.5"
          percent
          @set="$emit('set', { first: $event })"
        />
        <SliderLine
          word="Last end kept"
          :value="wish.last ?? 0"
          :most="0.5"
          percent
          @set="$emit('set', { last: $event })"
        />
      </template>
      <div v-if="wish.kind === 'stamp' && state!.colours === 'tint'" class="options small">
        <button
          v-for="[value, word] in COLOURS"
          :key="value"
          type="button"
          :aria-pressed="(wish.colour ?? '') === value"
          @click="$emit('set', { colour: value || undefined })"
        >
          {{ value ? `in ${word}` : 'in the artist’s colour' }}
        </button>
        <button
          type="button"
          :aria-pressed="wish.opacity === 0.3"
          @click="$emit('set', { opacity: wish.opacity ? undefined : 0.3 })"
        >
          At 30 %
        </button>
      </div>
    </template>
    <el-checkbox
      v-if="(wish.kind === 'texture' && wish.as === 'brush' && !several) || wish.as === 'grain'"
      :model-value="wish.twin"
      @update:model-value="$emit('set', { twin: !!$event })"
      >Also an inverted copy</el-checkbox
    >
    <el-checkbox
      v-if="wish.as === 'part' || wish.as === 'grain'"
      :model-value="wish.own"
      @update:model-value="$emit('set', { own: !!$event })"
      >Only for me</el-checkbox
    >
    <p class="soft small">{{ kept }}</p>
    <el-button type="primary" native-type="submit" :disabled="!able" :loading="busy">{{ deed }}</el-button>
  </form>
</template>

<style scoped>
.becomes {
  display: grid;
  gap: 6px;
  align-content: start;
  padding: 8px 16px 8px;
}
p {
  margin: 0;
}
</style>
