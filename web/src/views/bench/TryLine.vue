<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { paths } from '../../api/schema'
import Grounds from '../../parts/Grounds.vue'
import { onBench } from './useBench'

/** How all strokes are tried: along which movement, on which ground, in which colour and size, how near. */
defineEmits<{ adjustments: [] }>()
type Strokes = paths['/api/sample-strokes']['get']['responses']['200']['content']['application/json']
const bench = onBench()
const { trying } = bench
const strokes = ref<Strokes>()
const grounds = ref<string[]>([''])
const title = (text: string) => text.split(':')[0]!

async function loadStrokes() {
  strokes.value = await of(api.GET('/api/sample-strokes'))
  grounds.value = ['', ...strokes.value.grounds]
  // A sample stroke of one's own may have been removed since, or belong to somebody else.
  if (!strokes.value.sample_strokes.some(({ name }) => name === trying.value.sample)) trying.value.sample = 'swell'
}
onMounted(() => bench.toast.attempt(loadStrokes))
watch(
  () => bench.strokesChanged.value,
  () => bench.toast.attempt(loadStrokes),
)
</script>

<template>
  <div class="line try" aria-label="Preview options">
    <label class="line soft"
      >Stroke
      <el-select
        v-model="trying.sample"
        size="small"
        class="sample"
        aria-label="Sample stroke"
        filterable
        default-first-option
      >
        <el-option
          v-for="one in strokes?.sample_strokes ?? []"
          :key="one.name"
          :value="one.name"
          :label="title(one.title)"
        >
          {{ one.title
          }}<button
            v-if="one.own"
            class="plain remove"
            :aria-label="`Remove the sample stroke ${one.title}`"
            @click.stop="bench.removeStroke(one.id!, one.title)"
          >
            ✕
          </button>
        </el-option>
      </el-select>
    </label>
    <span class="line soft">Ground<Grounds v-model="trying.ground" :grounds="grounds" label="Ground" /></span>
    <label class="line soft"
      >Colour<input
        v-model="trying.colour"
        type="color"
        class="swatch"
        title="Colour to try it in"
        aria-label="Colour to try it in"
    /></label>
    <label class="line soft"
      >Size<el-input-number
        v-model="trying.size"
        size="small"
        :min="1"
        :max="5000"
        :controls="false"
        class="size"
        placeholder="own"
        aria-label="Size to try at, in px"
    /></label>
    <label class="line soft"
      >Zoom<el-slider
        v-model="trying.zoom"
        :min="1"
        :max="8"
        :step="1"
        :show-tooltip="false"
        aria-label="Zoom"
        class="zoom"
      /><span class="times">{{ trying.zoom }}×</span></label
    >
    <span class="grow" />
    <button class="plain" :aria-pressed="trying.adjustments" @click="trying.adjustments = !trying.adjustments">
      My adjustments {{ trying.adjustments ? 'on' : 'off' }}
    </button>
    <button class="plain" aria-label="Edit my adjustments" title="Edit my adjustments" @click="$emit('adjustments')">
      …
    </button>
  </div>
</template>

<style scoped>
.try {
  gap: 16px;
  height: 27px;
  white-space: nowrap;
  font-size: 12.5px;
}
.sample {
  width: 124px;
}
.remove {
  float: right;
}
.swatch {
  width: 26px;
  height: 19px;
  padding: 0;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: none;
  cursor: pointer;
}
.size {
  width: 58px;
}
.zoom {
  width: 130px;
  margin: 0 8px;
}
.times {
  width: 16px;
}
@media (max-width: 1279px) {
  .try {
    gap: 10px;
  }
  .zoom {
    width: 70px;
  }
}
@media (max-width: 820px) {
  .try {
    height: auto;
  }
}
</style>
