<script setup lang="ts">
import { computed } from 'vue'
import Strip from '../../parts/Strip.vue'
import { size } from '../../parts/size'
import { moment } from '../../parts/when'
import { atDesk } from './useDesk'

/** How the last start went, stroke beside stroke: what was planned, and what the desk really painted. */
const { desk } = atDesk()
const report = computed(() => desk.value!.report)
const painted = (sum: string) => `/api/desks/${desk.value!.id}/painted/${sum}.png`
const held = (bytes?: number | null) => (bytes ? size(bytes) : '')
</script>

<template>
  <section v-if="report" aria-label="Report of the last start">
    <div class="line">
      <h2>Last start</h2>
      <span class="soft small"
        >{{ moment(report.started_at) }}, plan {{ report.plan }}, {{ Math.round(report.ms) }} ms,
        {{ held(report.memory) }}; {{ report.failed ? `${report.failed} failed` : 'all loaded' }}</span
      >
    </div>
    <table>
      <tbody>
        <tr v-for="(one, index) in report.loaded" :key="index">
          <td>
            <span v-if="!one.ok" class="missing">failed</span><span v-else-if="!one.planned" class="own">◆ its own</span
            ><span v-else-if="one.as_planned && !one.apart" class="good">● as planned</span
            ><span v-else class="changed">{{
              one.as_planned ? `paints otherwise, by ${one.apart} of 255` : `altered, by ${one.apart} of 255`
            }}</span>
          </td>
          <td class="keyed">{{ one.key }}</td>
          <td>
            <b>{{ one.name }}</b>
          </td>
          <td class="strip-cell">
            <Strip v-if="one.planned" :fingerprint="one.planned" label="what was planned" :wide="160" lazy />
          </td>
          <td class="strip-cell">
            <Strip v-if="one.painted" :src="painted(one.painted)" :label="`${one.name}, as painted there`" lazy />
          </td>
          <td class="soft">{{ Math.round(one.ms) }}&nbsp;ms {{ held(one.memory) }}</td>
          <td>{{ one.problem }}</td>
        </tr>
      </tbody>
    </table>
  </section>
  <p v-else class="soft">Not started yet. Send its plan, then restart it.</p>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
td {
  padding: 3px 14px 3px 0;
}
.strip-cell {
  width: 170px;
}
.keyed {
  font-weight: 700;
  min-width: 18px;
}
.good {
  color: var(--accent);
}
.own {
  color: var(--tag-violet);
}
</style>
