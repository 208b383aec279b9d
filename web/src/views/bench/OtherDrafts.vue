<script setup lang="ts">
import { computed } from 'vue'
import Strip from '../../parts/Strip.vue'
import { moment } from '../../parts/when'
import { useDrafts } from './useDrafts'

/** This person's drafts of other brushes than the one on the Bench. */
const props = defineProps<{ brush: number }>()
defineEmits<{ close: [] }>()
const { rows, discard } = useDrafts()
const others = computed(() => rows.value?.filter(({ id }) => id !== props.brush))
</script>

<template>
  <aside aria-label="Other drafts">
    <div class="line">
      <h2>Other drafts</h2>
      <span class="grow" /><button class="plain" aria-label="Close the list of drafts" @click="$emit('close')">
        ✕
      </button>
    </div>
    <p v-if="others && !others.length" class="soft">No other drafts.</p>
    <div v-for="row in others" :key="row.id" class="draft" :title="row.tuned.join(', ')">
      <router-link :to="{ name: 'bench', params: { id: row.id } }"
        ><Strip :fingerprint="row.before" label="" lazy /><b>{{ row.name }}</b></router-link
      >
      <div class="line">
        <span class="soft small">{{ moment(row.at) }}</span><span class="grow" /><button
          class="plain small"
          :aria-label="`Discard the draft of ${row.name}`"
          @click="discard([row.id])"
        >
          Discard
        </button>
      </div>
    </div>
  </aside>
</template>

<style scoped>
aside {
  width: 196px;
  box-sizing: border-box;
  padding: 9px 12px;
  overflow: auto;
  background: var(--paper);
  border-right: 1px solid var(--line);
}
h2 {
  margin: 0;
  font-size: 13px;
}
.draft {
  padding: 7px 0 3px;
  border-top: 1px solid var(--line);
}
.draft:first-of-type {
  margin-top: 6px;
}
.draft a {
  display: block;
  color: inherit;
  text-decoration: none;
}
.draft b {
  display: block;
  margin-top: 3px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.draft a:hover b {
  color: var(--accent);
}
</style>
