<script setup lang="ts">
import { useDark } from '@vueuse/core'
import { BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js'
import { computed, onMounted, ref } from 'vue'
import { Bar } from 'vue-chartjs'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** What the library holds, counted; what is never used; what lacks something. */
Chart.register(BarElement, CategoryScale, LinearScale, Tooltip)
Chart.defaults.font.family = "'Hanken Grotesk Variable', sans-serif"
const library = useLibrary()
const toast = useToast()
const found = ref<components['schemas']['Overview']>()
const night = useDark({ valueDark: 'night', valueLight: 'day', storageKey: 'fobrel.ground', initialValue: 'light' })
onMounted(() =>
  toast.attempt(async () => (found.value = await of(api.GET('/api/libraries/{library}/overview', library.path())))),
)

const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
const charts = computed(() => {
  void night.value
  const shown: [string, components['schemas']['Numbers']][] = [
    ['By family', found.value!.families],
    ['By size', found.value!.sizes],
    ['By trait', found.value!.traits],
    ['By author', found.value!.authors.slice(0, 12)],
    ['By month it came', found.value!.months],
  ]
  return shown
    .filter(([, list]) => list.length)
    .map(([title, list]) => ({
      title,
      tall: Math.max(90, list.length * 20 + 24),
      said: list.map(({ name, count }) => `${name} ${count}`).join(', '),
      data: {
        labels: list.map(({ name }) => name),
        datasets: [
          {
            data: list.map(({ count }) => count),
            backgroundColor: colour('--accent'),
            borderRadius: 3,
            barThickness: 11,
          },
        ],
      },
      options: {
        indexAxis: 'y' as const,
        responsive: true,
        maintainAspectRatio: false,
        animation: false as const,
        plugins: { legend: { display: false } },
        scales: {
          x: { ticks: { color: colour('--soft'), precision: 0 }, grid: { color: colour('--line') } },
          y: { ticks: { color: colour('--ink'), autoSkip: false }, grid: { display: false } },
        },
      },
    }))
})
</script>

<template>
  <div class="page">
    <h1>Overview</h1>
    <template v-if="found">
      <p class="soft">{{ found.total }} brushes in this library.</p>
      <div class="gaps">
        <router-link
          v-for="gap in found.gaps"
          :key="gap.name"
          :to="{ name: 'wall', query: { search: gap.query } }"
          class="gap"
          ><b>{{ gap.count }}</b
          ><span>{{ gap.name }}</span></router-link
        >
      </div>
      <div class="charts">
        <section v-for="chart in charts" :key="chart.title" :aria-label="`${chart.title}: ${chart.said}`">
          <h2>{{ chart.title }}</h2>
          <div :style="{ height: `${chart.tall}px` }"><Bar :data="chart.data" :options="chart.options" /></div>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.gaps {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 10px;
  margin: 10px 0 18px;
}
.gap {
  display: grid;
  padding: 9px 12px;
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--card);
  color: var(--ink);
  text-decoration: none;
}
.gap:hover {
  border-color: var(--accent);
}
.gap b {
  font-size: 20px;
  color: var(--accent);
}
.charts {
  columns: 2;
  column-gap: 32px;
}
section {
  break-inside: avoid;
  margin-bottom: 20px;
}
h2 {
  margin-bottom: 4px;
}
</style>
