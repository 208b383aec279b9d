<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { sized } from '../../parts/bytes'
import { useDeed } from '../../parts/useDeed'
import { dated } from '../../parts/when'

/** Backups of the whole studio: where they lie, the last ones, and whether they could be restored. */
type Found = components['schemas']['StudioBackups']
type One = Found['list'][number]
const { found, load } = defineProps<{ found: Found; load: () => Promise<unknown> }>()

const underWay = computed(() => found.list.some((one) => one.under_way))
/** What changes by itself, or in another window, is looked at again; in silence where the server does not answer. */
useIntervalFn(() => load().catch(() => undefined), 3_000)

const {
  busy,
  problem,
  go: begin,
} = useDeed(async () => {
  await of(api.POST('/api/studio/backups'))
  await load()
})

const holds = (one: One) =>
  `${one.rows!.toLocaleString('en-GB')} rows, ${one.pictures!.toLocaleString('en-GB')} pictures`
function outcome(one: One) {
  if (one.problem) return `Backup failed. ${one.problem}`
  if (one.test_problem) return `Test restore failed. ${one.test_problem}`
  if (!one.made_at) return 'being made…'
  if (one.under_way) return 'made; test restore running…'
  return one.tried_at ? 'test restore passed' : 'the test restore was cut off and is repeated'
}
</script>

<template>
  <section aria-labelledby="backups">
    <div class="line">
      <h2 id="backups">Studio backups</h2>
      <span class="grow" /><el-button size="small" :loading="busy || underWay" @click="begin">Back up now</el-button>
    </div>
    <p class="soft small">
      Runs nightly at {{ String(found.hour).padStart(2, '0') }}:00, into <code>{{ found.folder }}</code>, without
      passwords. Fobrel keeps the last {{ found.days }} daily, {{ found.weeks }} weekly and {{ found.months }} monthly
      backups. Restore one on the server: <code>bin/fobrel restore FILE</code>.
    </p>
    <p v-if="found.late" class="missing" role="status">No backup in the last two days.</p>
    <p v-if="problem" class="missing" role="alert">{{ problem }}</p>
    <table v-if="found.list.length" class="list" aria-label="Studio backups">
      <tbody>
        <tr v-for="one in found.list" :key="one.id">
          <td class="soft">{{ dated(one.at) }}</td>
          <td class="soft">{{ one.by ?? 'automatic' }}</td>
          <td class="count">{{ one.size === null ? '' : sized(one.size) }}</td>
          <td class="soft">{{ one.made_at ? holds(one) : '' }}</td>
          <td>
            <span :class="{ missing: one.problem || one.test_problem }">{{ outcome(one) }}</span><span
              v-if="one.made_at && !one.there"
              class="soft"
              >; its file has been deleted</span
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">None yet.</p>
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
}
.count {
  text-align: right;
}
code {
  overflow-wrap: anywhere;
}
</style>
