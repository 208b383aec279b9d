<script setup lang="ts">
import { computed } from 'vue'
import Painted from '../../parts/Painted.vue'
import type { Document } from '../../api/client'
import { inOrder, offScale, shown, withValue, type Setting } from './settings'
import { onBench } from './useBench'

/** A setting's name, with a card that says what it does and shows this brush with little and with much of it. */
const props = defineProps<{ one: Setting }>()
const { document } = onBench()

/** The two values that are painted, for a setting that has such. */
const ends = computed((): unknown[] => {
  const { kind, least, most, choices } = props.one
  if (kind === 'number') return [offScale(props.one, least), offScale(props.one, most)]
  if (kind === 'switch') return [false, true]
  return kind === 'choice' ? (choices ?? []).slice(0, 2).map(({ value }) => value) : []
})
/** Opacity and flow differ only where a stroke crosses itself. */
const crossing = { sample: 'crossing', colour: '#1d2026', size: 16 }
const overlaps = computed(() => ['paint.opacity', 'paint.flow'].includes(props.one.path.join('.')))
const whole = { opacity: 1, flow: 1 }
const examples = computed(() =>
  ends.value.map((value) => {
    const { path } = props.one
    const plain = overlaps.value
      ? { ...document.value!, paint: { ...(document.value!.paint as Document), ...whole } }
      : document.value!
    const low = overlaps.value && value !== ends.value[1] ? (path[1] === 'flow' ? 0.08 : 0.35) : value
    return {
      title: `${props.one.title} ${shown(props.one, low)}`,
      ask: {
        document: inOrder(withValue(plain, path, low), path),
        ...(overlaps.value ? { try: crossing } : {}),
      },
    }
  }),
)
</script>

<template>
  <el-popover
    :trigger="['hover', 'focus', 'click']"
    :show-after="350"
    :hide-after="0"
    placement="right"
    :width="examples.length ? 340 : 260"
    :persistent="false"
  >
    <template #reference
      ><button class="name" tabindex="-1" :aria-label="`About ${one.title}`">{{ one.title }}</button></template
    >
    <p class="help">
      <b>{{ one.title }}</b><br />{{ one.help }}
    </p>
    <p v-if="overlaps" class="help soft">Where the stroke overlaps, opacity stays even and flow builds up.</p>
    <figure v-for="example in examples" :key="example.title">
      <Painted :ask="example.ask" :label="example.title" />
      <figcaption class="small soft">{{ example.title }}</figcaption>
    </figure>
  </el-popover>
</template>

<style scoped>
.name {
  font: inherit;
  color: var(--soft);
  text-align: left;
  padding: 0;
  border: 0;
  background: none;
  cursor: help;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name:hover {
  color: var(--ink);
}
.help {
  margin: 0;
  text-align: left;
  word-break: normal;
}
figure {
  margin: 8px 0 0;
}
</style>
