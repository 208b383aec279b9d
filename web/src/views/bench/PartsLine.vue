<script setup lang="ts">
import { computed, ref } from 'vue'
import PartPicture from '../../parts/PartPicture.vue'
import PartDialog from './PartDialog.vue'
import { withValue } from './settings'
import TwoWay from './TwoWay.vue'
import { onBench } from './useBench'

/** What the brush is made of: its tip, its grain; and the drag for two settings at once. */
const bench = onBench()
const { document } = bench
const choosing = ref<'tip' | 'grain'>()
const tip = computed(() => document.value!.tip.form)
const frames = computed(() => (tip.value.frames as string[] | undefined) ?? [])
const picture = computed(() => frames.value[0] ?? (tip.value.asset as string | undefined))
const grain = computed(() => document.value!.grain?.asset as string | undefined)
const tipWords = computed(() => {
  if (tip.value.kind === 'round') return 'round'
  if (tip.value.kind === 'shape') return 'a drawing'
  return frames.value.length > 1 ? `${frames.value.length} pictures` : 'a picture'
})
const grainWords = computed(() => (grain.value || !bench.session.mayEdit ? 'View the grain' : 'Choose a grain'))
const dropGrain = () => bench.tune(withValue(document.value!, ['grain'], null))
</script>

<template>
  <div class="parts">
    <figure>
      <button class="thumb" title="View the tip" aria-label="View the tip" @click="choosing = 'tip'">
        <PartPicture v-if="picture" :reference="picture" label="the tip" />
        <i
          v-else
          class="round"
          :style="{ background: `radial-gradient(circle closest-side, #1d2026 ${tip.hardness * 96}%, transparent)` }"
        />
      </button>
      <figcaption>
        <b>Tip</b> <span class="soft">{{ tipWords }}</span><br /><button class="plain small" @click="choosing = 'tip'">
          {{ bench.session.mayEdit ? 'Replace…' : 'View…' }}
        </button>
      </figcaption>
    </figure>
    <figure>
      <button class="thumb" :title="grainWords" :aria-label="grainWords" @click="choosing = 'grain'">
        <PartPicture v-if="grain" :reference="grain" label="the grain" /><i v-else class="none" />
      </button>
      <figcaption>
        <b>Grain</b> <span v-if="!grain" class="soft">none</span><br />
        <template v-if="bench.session.mayEdit"
          ><button class="plain small" @click="choosing = 'grain'">{{ grain ? 'Replace…' : 'Choose…' }}</button
          ><button v-if="grain" class="plain small" @click="dropGrain">Remove grain</button></template
        >
      </figcaption>
    </figure>
    <TwoWay v-if="bench.session.mayEdit" />
    <PartDialog v-if="choosing" :kind="choosing" @close="choosing = undefined" />
  </div>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 4px 10px;
  min-height: 48px;
  line-height: 1.25;
}
figure {
  display: flex;
  gap: 7px;
  margin: 0;
}
figcaption {
  white-space: nowrap;
  font-size: 12px;
}
figcaption .plain {
  padding: 0 3px 0 0;
}
.thumb {
  flex: none;
  width: 40px;
  height: 40px;
  padding: 1px;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  background: #fff;
  cursor: pointer;
  overflow: hidden;
}
.thumb i {
  display: block;
  width: 100%;
  height: 100%;
}
.none {
  background: repeating-linear-gradient(45deg, #fff 0 4px, #e6e6e6 4px 8px);
}
.two {
  flex: 1;
  min-width: 76px;
}
</style>
