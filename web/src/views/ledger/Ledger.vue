<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { api, of, type Entry } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { moment } from '../../parts/when'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const entries = ref<Entry[]>()
const load = () =>
  toast.attempt(
    async () => (entries.value = (await of(api.GET('/api/libraries/{library}/ledger', library.path()))).entries),
  )
onMounted(load)
watch(() => library.stamp, load)
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Ledger</h1>
      <span class="soft">Who did what, when, and the undo of it.</span>
    </div>
    <table v-if="entries?.length">
      <tbody>
        <tr v-for="entry in entries" :key="entry.id" :class="{ undone: entry.undone }">
          <td class="soft">{{ moment(entry.at) }}</td>
          <td>{{ entry.by }}</td>
          <td>
            <b>{{ entry.summary }}</b>
          </td>
          <td>
            <span v-if="entry.undone" class="soft">undone</span
            ><button v-else-if="entry.undoable && session.mayEdit" class="plain" @click="toast.undo(entry)">
              Undo
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="entries" class="empty">
      Nothing was done here yet. Imports, tags, sets, resets and start plans are written down as they happen.
    </p>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
td:nth-child(3) {
  width: 100%;
}
td {
  white-space: nowrap;
  padding: 6px 24px 6px 0;
  border-bottom: 1px solid var(--line);
}
.undone b {
  text-decoration: line-through;
  font-weight: 400;
}
</style>
