<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, of, type Facets } from '../../api/client'
import TagMark from '../../parts/TagMark.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { asks, type Term, type TermName } from '../../parts/asks'
import OwnWord from '../../parts/OwnWord.vue'

/** What narrows the list, with counts of what is found now. */
const props = defineProps<{ query: string; terms: Term[] }>()
const emit = defineEmits<{ toggle: [name: TermName, value: string] }>()
const library = useLibrary()
const session = useSession()
const facets = ref<Facets>()
let turn = 0

watch(
  [() => props.query, () => library.stamp],
  async () => {
    const mine = ++turn
    // What the whole library holds is known already.
    if (!props.query.trim()) {
      facets.value = library.loaded === session.libraryId ? library.all : undefined
      return
    }
    try {
      const got = await of(
        api.GET('/api/libraries/{library}/facets', { params: { ...library.path().params, query: { q: props.query } } }),
      )
      if (mine === turn) facets.value = got
    } catch {
      /* an unclear search is told by the brush list itself */
    }
  },
  { immediate: true },
)

const count = (kind: 'categories' | 'statuses' | 'tags', id: number) =>
  facets.value?.[kind].find(({ key }) => key === String(id))?.count ?? 0
/** A count that is not there yet is no 0. */
const shown = (number: number) => (facets.value ? number : '')
/** Each category counts its subcategories too. */
const tree = computed(() =>
  library.branches.map((one) => ({ ...one, count: one.ids.reduce((sum, id) => sum + count('categories', id), 0) })),
)
const tags = computed(() =>
  library.tags
    .filter((tag) => tag.count && facets.value)
    .map((tag) => ({ tag, count: count('tags', tag.id) }))
    .filter((one) => one.count || asks(props.terms, 'tag', one.tag.name))
    // Those asked for first, then by how many they hold, so that the few that are shown are the useful ones.
    .sort(
      (a, b) =>
        Number(asks(props.terms, 'tag', b.tag.name)) - Number(asks(props.terms, 'tag', a.tag.name)) ||
        b.count - a.count,
    ),
)
const traits = computed(() => (facets.value?.traits ?? []).slice(0, moreTraits.value ? 60 : 8))
const states = computed(() =>
  (facets.value?.states ?? []).filter(({ key, count }) => count || asks(props.terms, 'is', key)),
)
const FEW = 8
const moreTraits = ref(false)
const moreTags = ref(false)
const moreSets = ref(false)
const on = (name: string, value: string) => asks(props.terms, name, value)
</script>

<template>
  <aside aria-label="Filters">
    <template v-if="tree.length">
      <h2>Categories</h2>
      <button
        v-for="one in tree"
        :key="one.category.id"
        class="facet"
        :class="{ on: on('category', one.category.name) }"
        :aria-pressed="on('category', one.category.name)"
        :style="{ paddingLeft: `${8 + one.depth * 12}px` }"
        @click="emit('toggle', 'category', one.category.name)"
      >
        <span>{{ one.category.name }}</span><span>{{ shown(one.count) }}</span>
      </button>
    </template>
    <h2>Tags</h2>
    <button
      v-for="one in tags.slice(0, moreTags ? undefined : FEW)"
      :key="one.tag.id"
      class="facet"
      :class="{ on: on('tag', one.tag.name) }"
      :aria-pressed="on('tag', one.tag.name)"
      @click="emit('toggle', 'tag', one.tag.name)"
    >
      <TagMark :tag="one.tag" /><span>{{ one.count }}</span>
    </button>
    <button v-if="tags.length > FEW" class="plain small" @click="moreTags = !moreTags">
      {{ moreTags ? 'fewer' : `${tags.length - FEW} more tags` }}
    </button>
    <p v-if="!library.tags.length" class="soft small">No tags yet.</p>
    <template v-if="library.statuses.length">
      <h2>Status</h2>
      <button
        v-for="one in library.statuses"
        :key="one.id"
        class="facet"
        :class="{ on: on('status', one.name) }"
        :aria-pressed="on('status', one.name)"
        @click="emit('toggle', 'status', one.name)"
      >
        <TagMark state :tag="one" /><span>{{ shown(count('statuses', one.id)) }}</span>
      </button>
    </template>
    <h2>Sets</h2>
    <button
      v-for="one in library.sets.filter((one, index) => moreSets || index < FEW || on('set', one.name))"
      :key="one.id"
      class="facet"
      :class="{ on: on('set', one.name) }"
      :aria-pressed="on('set', one.name)"
      @click="emit('toggle', 'set', one.name)"
    >
      <span
        :class="{ standing: one.query !== null }"
        :title="one.query !== null ? `Fills itself: ${one.query}` : undefined"
        >{{ one.name }}</span><span>{{ one.count }}</span>
    </button>
    <button v-if="library.sets.length > FEW" class="plain small" @click="moreSets = !moreSets">
      {{ moreSets ? 'fewer' : `${library.sets.length - FEW} more sets` }}
    </button>
    <p v-if="!library.sets.length" class="soft small">No sets yet.</p>
    <h2 v-if="states.length">State</h2>
    <button
      v-for="one in states"
      :key="one.key"
      class="facet"
      :class="{ on: on('is', one.key) }"
      :aria-pressed="on('is', one.key)"
      @click="emit('toggle', 'is', one.key)"
    >
      <span>{{ one.key }}</span><span>{{ one.count }}</span>
    </button>
    <h2 v-if="traits.length"><OwnWord word="traits">Traits</OwnWord></h2>
    <button
      v-for="one in traits"
      :key="one.key"
      class="facet"
      :class="{ on: on('trait', one.key) }"
      :aria-pressed="on('trait', one.key)"
      @click="emit('toggle', 'trait', one.key)"
    >
      <span>{{ one.key }}</span><span>{{ one.count }}</span>
    </button>
    <button v-if="(facets?.traits.length ?? 0) > 8" class="plain small" @click="moreTraits = !moreTraits">
      {{ moreTraits ? 'fewer' : 'more traits' }}
    </button>
  </aside>
</template>

<style scoped>
aside {
  padding: 4px 8px 16px;
  border-right: 1px solid var(--line);
  overflow: auto;
}
h2 {
  font-size: 12px;
  margin: 12px 8px 3px;
}
p {
  margin: 4px 8px;
}
.facet {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  width: 100%;
  font: inherit;
  text-align: left;
  color: var(--soft);
  background: none;
  border: 0;
  border-radius: 5px;
  padding: 2px 8px;
  cursor: pointer;
}
.facet > :first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.facet:hover {
  background: var(--card);
}
.facet.on {
  color: var(--accent);
  font-weight: 700;
  background: var(--accent-wash);
}
.standing {
  font-style: italic;
}
.plain {
  margin-left: 4px;
}
</style>
