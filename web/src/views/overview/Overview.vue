<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import Bars from './Bars.vue'

/** What the library holds, counted; what is never used; what lacks something. */
const library = useLibrary()
const toast = useToast()
const found = ref<components['schemas']['Overview']>()
onMounted(() =>
  toast.attempt(async () => (found.value = await of(api.GET('/api/libraries/{library}/overview', library.path())))),
)

const charts = computed(() => {
  const { categories, sizes, traits, authors, months } = found.value!
  return [
    { title: 'By category', bars: categories },
    { title: 'By size', bars: sizes },
    { title: 'By trait', bars: traits },
    { title: 'By author', bars: authors.slice(0, 12) },
    { title: 'By month added', bars: months },
  ].filter(({ bars }) => bars.length)
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
          :to="{ name: 'brushes', query: { search: gap.query } }"
          class="gap"
          ><b>{{ gap.count }}</b
          ><span>{{ gap.name }}</span></router-link
        >
      </div>
      <div class="charts">
        <section v-for="chart in charts" :key="chart.title" :aria-label="chart.title">
          <h2>{{ chart.title }}</h2>
          <Bars :bars="chart.bars" />
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
