<script setup lang="ts">
import { computed } from 'vue'
import { vOneStop } from './oneStop'
import PartsLine from './PartsLine.vue'
import SettingRow from './SettingRow.vue'
import { valueAt } from './settings'
import { onBench } from './useBench'

/** All settings in their groups, made from the preset's schema; a tick where baseline is, and a way back for each. */
const bench = onBench()
const { detail, document, grouped, counts, back, goal } = bench
const baseline = computed(() => detail.value!.baseline_document)
const fixed = computed(() => !bench.session.mayEdit)
const origin = computed(() => (detail.value!.origin === 'received' ? 'as received' : 'as made'))
const BACKS = computed(
  () =>
    [
      ['baseline', 'baseline'],
      ['current', `version ${detail.value!.draft?.base ?? detail.value!.preset.version}`],
      ['received', origin.value],
    ] as const,
)

const groupBack = (name: string) => bench.tune({ ...document.value!, [name]: goal.value[name] })
</script>

<template>
  <section class="tuning" aria-label="Settings">
    <PartsLine />
    <div
      v-for="({ name, title, help, list }, index) in grouped"
      :key="name"
      v-one-stop
      class="group"
      :data-group="name"
    >
      <h2 :title="help">
        {{ title }}<b v-if="counts[name]" class="changed">{{ counts[name] }}</b>
        <button
          v-if="counts[name] && !fixed"
          class="plain way-back"
          :aria-label="`Reset all of ${title}`"
          :title="`Reset all of ${title}`"
          @click="groupBack(name)"
        >
          ↩
        </button>
        <label v-if="index === 0 && !fixed" class="soft small ways"
          >↩ resets to
          <el-select
            v-model="back"
            aria-label="Reset to"
            size="small"
            class="inline-select"
            :empty-values="[undefined]"
          >
            <el-option v-for="[value, label] in BACKS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
      </h2>
      <SettingRow
        v-for="one in list"
        :key="one.path.join('.')"
        :one="one"
        :value="valueAt(document!, one.path)"
        :baseline="valueAt(baseline, one.path)"
        :goal="valueAt(goal, one.path)"
        :fixed="fixed"
        :differs="bench.differs(one.path)"
        @set="bench.set(one.path, $event)"
      />
      <p v-if="name === 'grain' && !document!.grain" class="soft small">No grain.</p>
    </div>
  </section>
</template>

<style scoped>
.group h2 {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
  margin: 5px 0 0;
  min-height: 21px;
}
.group p {
  margin: 1px 0;
}
.way-back {
  color: var(--ochre);
  font-size: 15px;
  line-height: 1;
  padding: 0 2px;
}
.ways {
  margin-left: auto;
  font-weight: 400;
  letter-spacing: 0;
}
.ways .inline-select.el-select {
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 5px;
}
</style>
