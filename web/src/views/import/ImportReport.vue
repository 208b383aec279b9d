<script setup lang="ts">
import { computed } from 'vue'
import type { ImportItem, ImportPlan } from '../../api/client'
import { titled, words } from '../../stores/words'

/** What became of an import that was taken in. */
const props = defineProps<{ plan: ImportPlan }>()
interface Line {
  name: string
  state: ImportItem['state']
  decision: ImportItem['decision']
  becomes: string
  sentence: string
  preset: number | null
}
const MOST = 400
const report = computed(() => props.plan.report as { notes?: string[]; lines?: Line[] } | null)
const told = computed(() =>
  words.value.plan.decisions
    .map(({ name, title }) => ({
      decision: name,
      title,
      list: report.value?.lines?.filter(({ decision }) => decision === name) ?? [],
    }))
    .filter(({ list }) => list.length),
)
</script>

<template>
  <p>
    {{ plan.entry?.summary ?? 'Everything was here already. Nothing was added.'
    }}<span v-if="plan.entry?.undone" class="changed">undone</span>
    <router-link v-if="plan.entry" :to="{ name: 'history', query: { import: plan.id } }">in History</router-link>
  </p>
  <p v-for="note in report?.notes" :key="note" class="changed">{{ note }}</p>
  <section v-for="{ decision, title, list } in told" :key="decision" class="kind" :aria-label="title">
    <div class="line title">
      <h2>{{ title }}</h2>
      <span class="soft">{{ list.length }}</span>
    </div>
    <div v-for="(line, index) in list.slice(0, MOST)" :key="index" class="line report">
      <router-link v-if="line.preset" :to="{ name: 'bench', params: { id: line.preset } }">{{
        line.becomes
      }}</router-link><b v-else>{{ line.becomes }}</b
      ><span v-if="line.becomes !== line.name" class="soft">imported as “{{ line.name }}”</span
      ><span class="soft">{{ line.sentence || titled(words.plan.states, line.state).toLowerCase() }}</span>
    </div>
  </section>
</template>

<style scoped>
.kind {
  margin-bottom: 14px;
}
.title {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.report {
  padding: 2px 0;
}
.report a {
  font-weight: 700;
  color: var(--ink);
}
.report b,
.report a {
  flex: 0 0 220px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
