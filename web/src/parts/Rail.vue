<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { views } from '../routes'
import { useInbox } from '../stores/inbox'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'

/** The views this person may use, under their headings; a heading of none is left out. */
const session = useSession()
const library = useLibrary()
const inbox = useInbox()
const route = useRoute()
const here = computed(() => ({ library: session.libraryId }))
const drafts = computed(() => library.count('draft'))
const behind = computed(
  () => library.seats.filter(({ state }) => ['behind', 'drifted', 'unreachable'].includes(state)).length,
)
const groups = computed(() =>
  [...new Set(views.map(({ group }) => group))]
    .map((group) => ({ group, views: views.filter((view) => view.group === group && session.mayUse(view.who)) }))
    .filter((one) => one.views.length),
)
</script>

<template>
  <nav aria-label="Views">
    <template v-for="{ group, views: list } in groups" :key="group">
      <h3>{{ group }}</h3>
      <router-link
        v-for="view in list"
        :key="view.name"
        :to="{ name: view.name, params: here }"
        active-class="here"
        :class="{ here: view.name === 'drafts' && route.name === 'bench' }"
      >
        {{ view.title }}
        <b v-if="view.name === 'drafts' && drafts" title="Your drafts">{{ drafts }}</b>
        <b v-if="view.name === 'inbox' && inbox.unseen" title="New for you">{{ inbox.unseen }}</b>
        <b v-if="view.name === 'seats' && behind" title="Seats that are not current">{{ behind }}</b>
      </router-link>
    </template>
  </nav>
</template>

<style scoped>
nav {
  background: var(--rail);
  border-right: 1px solid var(--line);
  padding: 2px 0;
  overflow: auto;
}
nav h3 {
  margin: 7px 16px 1px;
  font-size: 11px;
  font-weight: 600;
  color: var(--soft);
}
nav a {
  display: block;
  padding: 3px 16px;
  font-size: 13px;
  color: var(--ink);
  text-decoration: none;
}
nav a:hover {
  background: var(--card);
}
nav a.here {
  font-weight: 700;
  background: var(--card);
  box-shadow: inset 4px 0 var(--accent);
}
nav a b {
  float: right;
  color: var(--ochre);
}
@media (max-width: 820px) {
  nav {
    display: flex;
    align-items: center;
    padding: 0 8px;
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
  nav h3 {
    display: none;
  }
  nav a {
    flex: none;
    padding: 5px 9px;
    white-space: nowrap;
  }
  nav a.here {
    box-shadow: inset 0 -3px var(--accent);
  }
  nav a b {
    float: none;
  }
}
</style>
