<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import { sized } from '../../parts/bytes'
import { moment } from '../../parts/when'

/** What takes room, how long what is kept, and how busy the server is. */
type Found = components['schemas']['Storage']
type Rule = Found['rules'][number]
const library = useLibrary()
const toast = useToast()
const found = ref<Found>()
/** What was typed and is not saved yet, by rule; null is no limit. */
const typed = ref<Record<string, number | null>>({})
const path = '/api/libraries/{library}/storage' as const

async function load() {
  found.value = await of(api.GET(path, library.path()))
}
onMounted(() => toast.attempt(load))
watch(
  () => library.stamp,
  () => toast.attempt(load),
)

const cleaning = computed(() =>
  found.value?.cleanings.some((one) => !one.ended_at && Date.now() - Date.parse(one.at) < HOUR),
)
const HOUR = 3_600_000
/** What changes by itself is looked at again; without a word where the server does not answer. */
useIntervalFn(() => load().catch(() => undefined), 5_000)

const said = (rule: Rule) => (rule.key in typed.value ? typed.value[rule.key]! : rule.days)
const changed = computed(() => !!found.value?.rules.some((rule) => said(rule) !== rule.days))
const keep = () =>
  toast.attempt(async () => {
    found.value = await of(api.PUT(path, { ...library.path(), body: { days: typed.value } }))
    typed.value = {}
    toast.done('Saved. Applies from tonight.')
  })
const {
  busy,
  problem,
  go: clean,
} = useDeed(async () => {
  found.value = await of(api.POST('/api/libraries/{library}/storage/cleaning', library.path()))
})

const KINDS: Record<string, string> = {
  ReadImport: 'Imports to read',
  ApplyImport: 'Imports to apply',
  PaintStrips: 'Strips to paint',
  LookIntoGallery: 'Gallery searches',
  FetchFromGallery: 'Downloads from the gallery',
  PublishToGallery: 'Uploads to the gallery',
  SaveWork: 'Tips to make',
  ChangeMany: 'Bulk changes',
  WriteExport: 'Exports to write',
  CleanUp: 'Cleaning',
  BackUpStudio: 'Studio backups',
}
/** Days that are proposed where nothing is taken away usually. */
const LONG = 365
const span = (seconds: number) => (seconds < 60 ? `${seconds} s` : `${Math.round(seconds / 60)} min`)
function outcome(one: Found['cleanings'][number]) {
  if (!one.ended_at) return cleaning.value ? 'running' : 'interrupted; the next run continues'
  const gone = one.took.map(({ title, count }) => `${title}: ${count}`).join('; ')
  const room = (one.before ?? 0) - (one.after ?? 0)
  return `${gone || 'Nothing to delete'}${room > 1048576 ? `; ${sized(room)} given back` : ''}`
}
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Storage</h1>
      <span class="soft">Disk use, retention and server load.</span>
    </div>
    <div v-if="found" class="parts">
      <section aria-labelledby="rules">
        <h2 id="rules">Retention</h2>
        <p class="soft small">
          Older items are deleted nightly at {{ String(found.hour).padStart(2, '0') }}:00. These rules apply to this
          library only.
        </p>
        <form @submit.prevent="keep">
          <div v-for="rule in found.rules" :key="rule.key" class="rule">
            <label :for="`days-${rule.key}`">{{ rule.title }}</label>
            <el-input-number
              :id="`days-${rule.key}`"
              :model-value="said(rule) ?? undefined"
              :min="1"
              :max="3650"
              :precision="0"
              size="small"
              controls-position="right"
              :disabled="said(rule) === null"
              placeholder="No limit"
              :aria-label="`${rule.title}, days`"
              @update:model-value="(days: number | undefined) => (typed[rule.key] = days ?? rule.usual ?? LONG)"
            />
            <span class="soft">days</span>
            <el-checkbox
              v-if="rule.never"
              :model-value="said(rule) === null"
              label="No limit"
              :aria-label="`${rule.title}, no limit`"
              @update:model-value="(ever) => (typed[rule.key] = ever ? null : (rule.usual ?? LONG))"
            />
          </div>
          <p class="soft small">
            Taken away in any case:
            {{ found.always.map((text) => text.charAt(0).toLowerCase() + text.slice(1)).join('; ') }}.
          </p>
          <div class="line">
            <el-button type="primary" native-type="submit" :disabled="!changed">Save rules</el-button
            ><button v-if="changed" type="button" class="plain" @click="typed = {}">Discard changes</button>
          </div>
        </form>
      </section>
      <section aria-labelledby="room">
        <h2 id="room">Disk use</h2>
        <table>
          <tbody>
            <tr v-for="one in found.room" :key="one.title">
              <td>{{ one.title }}</td>
              <td class="soft number">{{ one.count }}</td>
              <td class="number">{{ sized(one.bytes) }}</td>
            </tr>
          </tbody>
        </table>
        <p class="soft small">The whole database, with all libraries and indexes: {{ sized(found.database) }}.</p>
      </section>
      <section aria-labelledby="nights">
        <div class="line">
          <h2 id="nights">Recent clean-ups</h2>
          <span class="grow" /><el-button size="small" :loading="busy || cleaning" @click="clean">Clean now</el-button>
        </div>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <table v-if="found.cleanings.length">
          <tbody>
            <tr v-for="one in found.cleanings" :key="one.at">
              <td class="soft">{{ moment(one.at) }}</td>
              <td class="soft">{{ one.by ?? 'automatic' }}</td>
              <td class="wide">{{ outcome(one) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="soft">None yet.</p>
      </section>
      <section aria-labelledby="busy">
        <h2 id="busy">Processes</h2>
        <table>
          <thead>
            <tr>
              <th>Process</th>
              <th>Requests</th>
              <th>Painting</th>
              <th>Waiting to be painted</th>
              <th>Memory</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in found.processes" :key="`${one.kind} ${one.pid}`">
              <td>{{ one.kind === 'web' ? 'Answers pages' : 'Background work' }}</td>
              <td class="number">{{ one.requests }}</td>
              <td class="number">{{ one.painting }}</td>
              <td class="number">{{ one.waiting }}</td>
              <td class="number">{{ sized(one.memory) }}</td>
            </tr>
          </tbody>
        </table>
        <table v-if="found.work.length" class="queue">
          <tbody>
            <tr v-for="one in found.work" :key="one.kind">
              <td>{{ KINDS[one.kind] ?? one.kind }}</td>
              <td class="number">{{ one.count }}</td>
              <td class="soft">the first for {{ span(one.oldest) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="soft">No background work is waiting.</p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
.parts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(440px, 1fr));
  gap: 26px 36px;
  align-items: start;
}
.rule {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px auto 82px;
  gap: 8px;
  align-items: center;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.rule .el-input-number {
  width: 92px;
}
form > p {
  margin: 10px 0;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-top: 6px;
}
td,
th {
  padding: 5px 14px 5px 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: 400;
  vertical-align: top;
}
th {
  color: var(--soft);
  font-size: 12px;
}
.number,
th:not(:first-child) {
  text-align: right;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}
.wide {
  width: 100%;
}
td.soft {
  white-space: nowrap;
}
.queue {
  margin-top: 12px;
}
.problem {
  color: var(--madder);
}
</style>
