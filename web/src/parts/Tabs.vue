<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { entryOf, views } from '../routes'
import { useSession } from '../stores/session'

/** The views of one entry of the rail, side by side. Nothing where there is only one. */
const session = useSession()
const route = useRoute()
const tabs = computed(() => {
  const entry = entryOf(route.name)
  if (!entry || route.name === 'bench' || route.name === 'compare') return []
  const found = views.filter((view) => view.entry === entry && session.mayUse(view.who))
  return found.length > 1 ? found : []
})
</script>

<template>
  <nav v-if="tabs.length" class="tabs" aria-label="Views">
    <router-link
      v-for="tab in tabs"
      :key="tab.name"
      :to="{ name: tab.name, params: { library: session.libraryId } }"
      :class="{ here: tab.name === route.name }"
      :aria-current="tab.name === route.name ? 'page' : undefined"
      >{{ tab.title }}</router-link
    >
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 4px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  overflow-x: auto;
}
a {
  padding: 7px 8px 5px;
  border-bottom: 2px solid transparent;
  color: var(--soft);
  font-weight: 600;
  text-decoration: none;
  white-space: nowrap;
}
a:hover {
  color: var(--ink);
}
a.here {
  color: var(--ink);
  border-color: var(--accent);
}
</style>
