<script setup lang="ts">
import { Check, Circle } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'

/** The first steps of a new studio, until they are done or put away by whoever began it. */
const NAME = 'checklist'
const route = useRoute()
const session = useSession()
const library = useLibrary()
const toast = useToast()
const colleagues = ref<number>()

/** The studio's first library is the one it begins with. */
const beginning = computed(
  () =>
    !!session.person?.owner &&
    session.unread(NAME) &&
    session.library?.role === 'lead' &&
    session.libraries.every(({ id }) => id >= session.libraryId!),
)
// Read again with the library, and when a view is left: what was done there may have been a step.
watch(
  () => [beginning.value, library.stamp, route.name],
  () => beginning.value && count().catch(() => undefined),
  { immediate: true },
)
async function count() {
  const at = library.path()
  const [{ people }, { invitations }] = await Promise.all([
    of(api.GET('/api/libraries/{library}/people', at)),
    of(api.GET('/api/libraries/{library}/invitations', at)),
  ])
  colleagues.value = people.length - 1 + invitations.length
}
const steps = computed(() => [
  { title: 'Make or import a brush', view: 'tip-maker', done: !!library.all?.total },
  { title: 'Put brushes into a set', view: 'sets', done: library.sets.length > 0 },
  { title: 'Invite a colleague', view: 'people', done: !!colleagues.value },
  { title: 'Set up a desk', view: 'desks', done: library.desks.length > 0 },
])
const shown = computed(() => beginning.value && colleagues.value !== undefined && steps.value.some(({ done }) => !done))
</script>

<template>
  <section v-if="shown" class="checklist" aria-label="First steps">
    <b>First steps</b>
    <ol>
      <li v-for="step in steps" :key="step.view" :class="{ done: step.done }">
        <component :is="step.done ? Check : Circle" :size="15" aria-hidden="true" />
        <span v-if="step.done">{{ step.title }} <span class="soft">(done)</span></span>
        <router-link v-else :to="{ name: step.view, params: { library: session.libraryId } }">{{
          step.title
        }}</router-link>
      </li>
    </ol>
    <button class="plain" @click="toast.attempt(() => session.readHint(NAME))">Put away</button>
  </section>
</template>

<style scoped>
.checklist {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 18px;
  padding: 7px 14px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}
ol {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  gap: 5px;
}
.done {
  color: var(--soft);
}
</style>
