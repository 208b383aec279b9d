<script setup lang="ts">
import { computed } from 'vue'
import { withValue } from './settings'
import { onBench } from './useBench'

/** Which colour a stroke has: the artist's, one fixed colour, or the tip's own. */
const bench = onBench()
const { document, trying } = bench
type Colour = { mode: 'artist' | 'fixed'; value?: string }
const colour = computed(() => document.value!.paint.colour as Colour)
const pictures = computed(() => document.value!.tip.form.kind === 'picture')
const chosen = computed(() => (document.value!.tip.form.colours === 'own' ? 'own' : colour.value.mode))

function choose(what: string) {
  const one = document.value!
  const tip = pictures.value ? withValue(one, ['tip', 'form', 'colours'], what === 'own' ? 'own' : 'tint') : one
  if (what === 'own') return bench.tune(tip)
  bench.tune(
    withValue(
      tip,
      ['paint', 'colour'],
      what === 'fixed' ? { mode: 'fixed', value: colour.value.value ?? trying.value.colour } : { mode: 'artist' },
    ),
  )
}
const pick = (event: Event) =>
  bench.set(['paint', 'colour'], { mode: 'fixed', value: (event.target as HTMLInputElement).value })
</script>

<template>
  <span class="line">
    <el-select :model-value="chosen" size="small" aria-label="Colour" @update:model-value="choose">
      <el-option value="artist" label="the artist’s" /><el-option value="fixed" label="one fixed colour" /><el-option
        v-if="pictures"
        value="own"
        label="the tip’s own"
      />
    </el-select>
    <input v-if="chosen === 'fixed'" type="color" aria-label="The fixed colour" :value="colour.value" @input="pick" />
  </span>
</template>

<style scoped>
.el-select {
  width: 132px;
}
input {
  width: 30px;
  height: 20px;
  padding: 0;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: none;
}
</style>
