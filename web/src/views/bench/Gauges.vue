<script setup lang="ts">
import { computed } from 'vue'
import type { Pose } from './pen'

/** What the pen really sends: how hard it presses, how it leans, which way the line runs. */
const props = defineProps<{ pose: Pose }>()
const whole = (value: number) => `${Math.round(value)}°`
const radians = (value: number) => (value * Math.PI) / 180
const way = computed(() => ({
  x: Math.cos(radians(props.pose.direction)) * 20,
  y: -Math.sin(radians(props.pose.direction)) * 20,
}))
const lean = computed(() => {
  const long = (22 * props.pose.tilt) / 90
  return { x: Math.cos(radians(props.pose.azimuth)) * long, y: Math.sin(radians(props.pose.azimuth)) * long }
})
</script>

<template>
  <div class="gauges">
    <span class="soft">Pressure</span><i class="bar"><b :style="{ width: `${pose.pressure * 100}%` }" /></i
    ><span data-test="pressure">{{ Math.round(pose.pressure * 100) }} %</span> <span class="soft">Tilt</span
    ><i class="bar"><b :style="{ width: `${(pose.tilt / 90) * 100}%` }" /></i
    ><span data-test="tilt">{{ whole(pose.tilt) }}</span>
    <svg
      class="pose"
      viewBox="-24 -24 48 48"
      role="img"
      :aria-label="`The pen leans ${whole(pose.tilt)}; the line runs ${whole(pose.direction)}`"
    >
      <circle r="22" />
      <line class="way" x1="0" y1="0" :x2="way.x" :y2="way.y" />
      <line class="pen" x1="0" y1="0" :x2="lean.x" :y2="lean.y" />
      <circle class="nib" r="2.5" />
    </svg>
  </div>
</template>

<style scoped>
.gauges {
  display: grid;
  grid-template-columns: 58px 1fr 40px 36px;
  gap: 0 8px;
  align-items: center;
}
.pose {
  grid-column: 4;
  grid-row: 1 / 3;
  width: 36px;
  height: 36px;
}
.pose circle {
  fill: var(--card);
  stroke: var(--line-strong);
}
.pose .nib {
  fill: var(--ink);
  stroke: none;
}
.pose line {
  stroke: var(--ink);
  stroke-width: 3;
  stroke-linecap: round;
}
.pose .way {
  stroke: var(--accent);
  stroke-width: 1.5;
  stroke-dasharray: 3 3;
}
.bar {
  height: 5px;
  border-radius: 3px;
  background: var(--line);
  overflow: hidden;
}
.bar b {
  display: block;
  height: 100%;
  background: var(--ink);
}
</style>
