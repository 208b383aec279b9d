<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import ExportDialog from '../../parts/ExportDialog.vue'
import { saveExport } from '../../parts/save'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { dated, day } from '../../parts/when'
import { sized } from '../../parts/bytes'

/** Everything exported: when, by whom and for what; each can be repeated. */
type Past = components['schemas']['Export']
const library = useLibrary()
const session = useSession()
const toast = useToast()
const exports = ref<Past[]>()
const busy = ref<number | 'backup'>()
const whole = ref(false)
const load = () =>
  toast.attempt(
    async () => (exports.value = (await of(api.GET('/api/libraries/{library}/exports', library.path()))).exports),
  )
onMounted(load)
watch(() => library.stamp, load)

async function fetched(
  which: number | 'backup',
  ask: () => Promise<{ data?: unknown; error?: unknown; response: Response }>,
) {
  busy.value = which
  await toast.attempt(async () => {
    const answer = await ask()
    const file = await saveExport(answer)
    toast.done(`${file} was downloaded.`)
    await load()
  })
  busy.value = undefined
}
const again = (one: Past) =>
  fetched(one.id, () => api.POST('/api/exports/{id}/repeat', { params: { path: { id: one.id } }, parseAs: 'blob' }))
const backUp = () =>
  fetched('backup', () =>
    api.POST('/api/libraries/{library}/exports', {
      ...library.path(),
      body: { kind: 'backup', of: { library: true }, name: `${session.library!.name} backup` },
      parseAs: 'blob',
    }),
  )
function closeWhole() {
  whole.value = false
  load()
}
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Exports</h1>
      <span class="soft">Everything exported so far.</span><span class="grow" /><el-button
        :disabled="!library.all?.total"
        @click="whole = true"
        >Export whole library…</el-button
      ><el-button type="primary" :loading="busy === 'backup'" :disabled="!library.all?.total" @click="backUp"
        >Back up library</el-button
      >
    </div>
    <table v-if="exports?.length" class="list">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>What</th>
          <th>File</th>
          <th>Destination</th>
          <td />
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in exports" :key="one.id">
          <td class="soft">{{ dated(one.at) }}</td>
          <td>{{ one.by }}</td>
          <td>
            <b>{{ one.name }}</b><br /><span class="soft"
              >{{ one.count }} {{ one.count === 1 ? 'brush' : 'brushes' }} as {{ one.said
              }}{{ one.release ? `, release ${one.release.number} of “${one.release.bundle}”` : '' }}</span
            >
          </td>
          <td>
            {{ one.file }}<br /><span class="soft" :title="`SHA-256 ${one.sha256}`"
              >{{ sized(one.size) }}, sum {{ one.sha256.slice(0, 8) }}…</span
            ><template v-if="one.waits_until"
              ><br /><a :href="`/api/exports/${one.id}/file`" :download="one.file">Download</a
              ><span class="soft">, until {{ day(one.waits_until) }}</span></template
            >
          </td>
          <td>{{ one.goes_to }}</td>
          <td>
            <router-link v-if="one.release" :to="{ name: 'bundles' }">Open bundle</router-link
            ><el-button
              v-else
              size="small"
              :loading="busy === one.id"
              :aria-label="`Export ${one.name} again`"
              @click="again(one)"
              >Export again</el-button
            >
          </td>
        </tr>
      </tbody>
    </table>
    <div v-else-if="exports" class="empty">
      <p>Nothing exported yet. Select brushes, then choose Export in the tray.</p>
    </div>
    <ExportDialog
      v-if="whole"
      :which="{ library: true }"
      :count="library.all?.total ?? 0"
      :title="session.library?.name ?? ''"
      @close="closeWhole"
    />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
td {
  vertical-align: top;
  overflow-wrap: anywhere;
}
</style>
