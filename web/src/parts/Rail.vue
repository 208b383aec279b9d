<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { entries, entryOf, views, type EntryName } from '../routes'
import { lastBrush } from '../stores/lastBrush'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'

/** The rail: an icon and a word for each entry this person may use, in four groups. */
const session = useSession()
const library = useLibrary()
const route = useRoute()
const here = computed(() => ({ library: session.libraryId }))
const current = computed(() => entryOf(route.name))
const drafts = computed(() => library.count('draft'))
const stale = computed(
  () =>
    library.desks.filter(({ state }) => ['out of date', 'changed on the desk', 'unreachable'].includes(state)).length,
)
/** The count beside an entry, and what it counts. */
const counts = computed<Partial<Record<EntryName, { count: number; of: string }>>>(() => ({
  bench: { count: drafts.value, of: 'unsaved drafts' },
  desks: { count: stale.value, of: 'desks that need attention' },
}))
const shown = computed(() =>
  entries.flatMap((entry) => {
    const first = views.find((view) => view.entry === entry.name && session.mayUse(view.who))
    return first ? [{ ...entry, view: first.name }] : []
  }),
)
/** The Bench opens with the brush that lay there last. */
function target(entry: { name: EntryName; view: string }) {
  const id = entry.name === 'bench' && current.value !== 'bench' ? lastBrush(session.libraryId!) : undefined
  return id && library.byId.has(id)
    ? { name: 'bench', params: { ...here.value, id } }
    : { name: entry.view, params: here.value }
}
</script>

<template>
  <nav class="rail" aria-label="Main">
    <template v-for="(entry, index) in shown" :key="entry.name">
      <hr v-if="index && entry.line !== shown[index - 1]!.line" />
      <router-link
        :to="target(entry)"
        :class="{ here: entry.name === current }"
        :aria-current="entry.name === current ? 'page' : undefined"
      >
        <component :is="entry.icon" :size="17" :stroke-width="1.8" aria-hidden="true" />
        <span>{{ entry.title }}</span>
        <b v-if="counts[entry.name]?.count" :title="`${counts[entry.name]!.count} ${counts[entry.name]!.of}`">{{
          counts[entry.name]!.count
        }}</b>
      </router-link>
    </template>
  </nav>
</template>

<style scoped>
.rail {
  background: var(--rail);
  border-right: 1px solid var(--line);
  padding: 10px 0;
  overflow: auto;
}
hr {
  margin: 10px 16px;
  border: 0;
  border-top: 1px solid var(--line);
}
a {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 7px 14px;
  font-size: 13px;
  font-weight: 500;
  color: var(--ink);
  text-decoration: none;
}
a:hover {
  background: var(--card);
}
a.here {
  font-weight: 700;
  background: var(--card);
  box-shadow: inset 4px 0 var(--accent);
}
a span {
  flex: 1;
  white-space: nowrap;
}
b {
  color: var(--ochre);
}
@media (max-width: 820px) {
  .rail {
    display: flex;
    align-items: center;
    padding: 0 8px;
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
  hr {
    display: none;
  }
  a {
    flex: none;
    gap: 6px;
    padding: 7px 9px;
  }
  a.here {
    box-shadow: inset 0 -3px var(--accent);
  }
}
</style>
