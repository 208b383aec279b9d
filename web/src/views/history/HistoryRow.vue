<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, of, type Entry } from '../../api/client'
import type { components } from '../../api/schema'
import { moment } from '../../parts/when'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'

type Change = components['schemas']['EntryChange']

/** One entry; opened, with each thing before and after, and what would stay if it were undone. */
const props = defineProps<{ entry: Entry }>()
const session = useSession()
const toast = useToast()
const open = ref(false)
const detail = ref<{ changes: Change[]; count: number; looked: boolean; stays: string[] }>()
const WORDS = { came: 'new', went: 'gone', changed: 'changed', order: 'in another order' } as const

const load = () =>
  toast.attempt(
    async () => (detail.value = await of(api.GET('/api/history/{id}', { params: { path: { id: props.entry.id } } }))),
  )
function flip() {
  open.value = !open.value
  if (open.value) void load()
}
watch(
  () => props.entry,
  () => open.value && void load(),
)
</script>

<template>
  <tr :class="{ undone: entry.undone }">
    <td class="soft">{{ moment(entry.at) }}</td>
    <td>{{ entry.by }}</td>
    <td class="soft">{{ entry.via }}</td>
    <td>
      <button class="summary" :aria-expanded="open" @click="flip">
        <b>{{ entry.summary }}</b>
      </button>
    </td>
    <td>
      <span v-if="entry.undone" class="soft">undone</span
      ><button v-else-if="entry.undoable && session.mayEdit" class="plain" @click="toast.undo(entry)">Undo</button>
    </td>
  </tr>
  <tr v-if="open && detail" class="detail">
    <td colspan="5">
      <p v-if="!detail.changes.length" class="soft">
        {{ entry.undone ? 'Undone.' : 'No details are kept, so this can’t be undone.' }}
      </p>
      <ul v-else>
        <li v-for="(change, index) in detail.changes" :key="index">
          <span class="soft">{{ change.thing }}</span> {{ change.name }}
          <template v-if="change.columns.length">
            <span v-for="column in change.columns" :key="column.name" class="column"
              >{{ column.name
              }}<template v-if="column.before || column.after"
                >: <s v-if="column.before">{{ column.before }}</s><i v-else class="soft">none</i> →
                <b v-if="column.after">{{ column.after }}</b><i v-else class="soft">none</i></template
              ></span
            >
          </template>
          <span v-else class="soft">{{ WORDS[change.what] }}</span>
        </li>
        <li v-if="detail.count > detail.changes.length" class="soft">
          and {{ detail.count - detail.changes.length }} more, all in the file
        </li>
      </ul>
      <p v-if="entry.undoable && session.mayEdit && detail.looked" class="soft">
        {{ detail.stays.length ? `If undone: ${detail.stays.join(' ')}` : 'Undo restores everything as it was.' }}
      </p>
    </td>
  </tr>
</template>

<style scoped>
td {
  white-space: nowrap;
  padding: 6px 20px 6px 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
td:nth-child(4) {
  width: 100%;
  white-space: normal;
}
.summary {
  all: unset;
  cursor: pointer;
}
.summary:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.undone b {
  text-decoration: line-through;
  font-weight: 400;
}
.detail td {
  white-space: normal;
  padding-left: 20px;
}
.detail ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.detail p {
  margin: 6px 0 0;
}
.column {
  margin-left: 10px;
}
</style>
