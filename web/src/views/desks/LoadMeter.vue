<script setup lang="ts">
import { computed } from 'vue'
import { size } from '../../parts/size'
import { atDesk } from './useDesk'

/** What the next start costs by this plan, beside the desk's limits and its last start. */
const { desk } = atDesk()
const load = computed(() => desk.value!.load)
const seconds = (ms: number) => (ms / 1000 < 10 ? (ms / 1000).toFixed(1) : Math.round(ms / 1000).toString())
/** Without a limit the bar is as long as one and a half times the greater of plan and last start. */
function bar(now: number, last: number | null, limit: number | null) {
  const full = limit ?? 1.5 * Math.max(now, last ?? 0, 1)
  return {
    share: Math.min(100, (100 * now) / full),
    mark: last === null ? undefined : Math.min(100, (100 * last) / full),
    over: limit !== null && now > limit,
  }
}
const rows = computed(() => {
  const { memory, ms, memory_limit: most, start_limit: longest, last_ms: took, last_memory: had, starts } = load.value
  return [
    {
      title: 'Memory',
      value: size(memory),
      beside: [most && `of ${most} MB`, had !== null && `last start ${size(had)}`].filter(Boolean).join('; '),
      ...bar(memory, had, most && most * 1e6),
    },
    {
      title: 'Start',
      value: `${seconds(ms)} s`,
      beside: [
        longest && `of ${seconds(longest)} s`,
        took !== null ? `last time ${seconds(took)} s` : 'no start yet',
        starts > 1 && `learned from ${starts} starts`,
      ]
        .filter(Boolean)
        .join('; '),
      ...bar(ms, took, longest),
    },
  ]
})
</script>

<template>
  <section aria-labelledby="cost">
    <h2 id="cost">Cost</h2>
    <div v-for="one in rows" :key="one.title" class="cost">
      <div class="line">
        <span
          >{{ one.title }} <b :class="{ missing: one.over }">{{ one.value }}</b></span
        ><span class="grow" /><span class="soft small">{{ one.beside }}</span>
      </div>
      <div
        class="bar"
        :class="{ over: one.over }"
        role="meter"
        :aria-label="`${one.title}: ${one.value} ${one.beside}`"
        :aria-valuenow="Math.round(one.share)"
        aria-valuemin="0"
        aria-valuemax="100"
      >
        <i :style="{ width: `${one.share}%` }" /><b v-if="one.mark !== undefined" :style="{ left: `${one.mark}%` }" />
      </div>
    </div>
    <p v-if="load.heaviest.length" class="soft small">
      heaviest:
      <template v-for="(one, index) in load.heaviest" :key="one.id"
        >{{ index ? ' · ' : '' }}{{ one.name }} {{ size(one.memory) }}</template
      >
    </p>
  </section>
</template>

<style scoped>
.cost {
  margin: 6px 0;
}
.bar {
  position: relative;
  height: 8px;
  border-radius: 4px;
  background: var(--line);
}
.bar i {
  display: block;
  height: 100%;
  border-radius: 4px;
  background: var(--accent);
  transition: width 0.2s;
}
.over i {
  background: var(--madder);
}
.bar b {
  position: absolute;
  top: -3px;
  width: 2px;
  height: 14px;
  background: var(--ochre);
}
</style>
