<script setup lang="ts">
import { computed } from 'vue'
import SettingRow from './SettingRow.vue'
import { valueAt, withValue } from './settings'
import TwoWay from './TwoWay.vue'
import { onBench } from './useBench'

/** All settings in their groups, made from the preset's schema; a tick where home is, and a way back for each. */
const bench = onBench()
const { detail, document, grouped, counts, back, goal } = bench
const home = computed(() => detail.value!.home_document)
const BACKS = computed(() => [['home', 'home'], ['current', `edition ${detail.value!.preset.edition}`], ['received', 'as received']] as const)

function groupBack(name: string) {
  bench.tune({ ...document.value!, [name]: goal.value[name] })
}

const dropGrain = () => bench.tune(withValue(document.value!, ['surface'], null))
</script>

<template>
  <section class="tuning" aria-label="Settings" :inert="!bench.session.mayEdit">
    <div class="line head">
      <TwoWay />
      <label class="soft small">a way back leads to
        <el-select v-model="back" size="small" aria-label="A way back leads to"><el-option v-for="[value, label] in BACKS" :key="value" :value="value" :label="label" /></el-select>
      </label>
    </div>
    <div v-for="{ name, title, help, list } in grouped" :key="name" class="group">
      <h2 :title="help">{{ title }}<b v-if="counts[name]" class="changed">{{ counts[name] }}</b>
        <button v-if="counts[name]" class="plain way-back" :aria-label="`All of ${title} back`" :title="`All of ${title} back`" @click="groupBack(name)">↩</button></h2>
      <SettingRow v-for="one in list" :key="one.path.join('.')" :one="one" :value="valueAt(document!, one.path)" :home="valueAt(home, one.path)" :goal="valueAt(goal, one.path)" :colour="bench.trying.value.colour" @set="bench.set(one.path, $event)" />
      <p v-if="name === 'surface' && !document!.surface" class="soft small">No grain. Copy it from a brush that has one, with Copy settings below.</p>
      <button v-else-if="name === 'surface'" class="plain small" @click="dropGrain">take the grain off</button>
    </div>
  </section>
</template>

<style scoped>
.head { justify-content: space-between; align-items: flex-start; }
.head label { width: 104px; }
.group h2 { display: flex; align-items: center; gap: 6px; font-size: 13px; margin: 9px 0 1px; min-height: 22px; }
.group p { margin: 2px 0; }
.way-back { color: var(--ochre); font-size: 15px; line-height: 1; padding: 0 2px; }
</style>
