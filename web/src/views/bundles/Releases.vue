<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, of, type Bundle } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { turns } from '../../parts/newest'
import { save } from '../../parts/save'
import Talk from '../../parts/talk/Talk.vue'
import { day } from '../../parts/when'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import PublishDialog from './PublishDialog.vue'
import ReleaseComparison from './ReleaseComparison.vue'
import type { Doing } from './useDoing'

/** What of a bundle was frozen: to download, compare, proposal outside, withdraw. */
type Release = components['schemas']['Release']
const props = defineProps<{ bundle: Bundle; busy: boolean; doing: Doing }>()
const session = useSession()
const toast = useToast()
const withdrawing = ref<Release>()
const reason = ref('')
const publishing = ref<Release>()
/** The release that is talked about. */
const talking = ref<number>()
const pair = ref<number[]>([])
const compared = ref<components['schemas']['ReleaseComparison']>()
watch(
  () => props.bundle.id,
  () => {
    pair.value = []
    compared.value = undefined
  },
)

const download = (one: Release) =>
  toast.attempt(async () => {
    const answer = await api.GET('/api/releases/{id}/package', { params: { path: { id: one.id } }, parseAs: 'blob' })
    const file = save((await of(Promise.resolve(answer))) as unknown as Blob, answer.response)
    toast.done(`${file} was downloaded.`)
  })
async function withdraw() {
  const asked = { params: { path: { id: withdrawing.value!.id } }, body: { reason: reason.value } }
  const well = await props.doing(
    () => of(api.PUT('/api/releases/{id}/withdraw', asked)),
    'Release withdrawn. It can still be downloaded.',
  )
  if (!well) return
  withdrawing.value = undefined
  reason.value = ''
}
const turn = turns()
async function pick(id: number) {
  const mine = turn()
  pair.value = pair.value.includes(id) ? pair.value.filter((one) => one !== id) : [...pair.value, id].slice(-2)
  compared.value = undefined
  if (pair.value.length < 2) return
  const [from, to] = [...pair.value].sort((a, b) => a - b)
  await toast.attempt(async () => {
    const params = { path: { id: props.bundle.id }, query: { from: from!, to: to! } }
    const got = await of(api.GET('/api/bundles/{id}/comparison', { params }))
    if (mine()) compared.value = got
  })
}
</script>

<template>
  <aside aria-label="Releases">
    <h2>Releases</h2>
    <p v-if="!bundle.releases.length" class="soft">No releases yet. A release freezes the bundle under a number.</p>
    <div v-for="one in bundle.releases" :key="one.id" class="release" :class="{ gone: one.withdrawn }">
      <el-checkbox
        :model-value="pair.includes(one.id)"
        :aria-label="`Compare release ${one.number}`"
        @change="pick(one.id)"
      />
      <div>
        <div class="line">
          <b>{{ one.number }}</b><span class="soft">{{ one.count }} {{ one.count === 1 ? 'brush' : 'brushes' }}</span
          ><span v-if="one.withdrawn" class="missing">withdrawn</span>
        </div>
        <span class="soft small">{{ one.by }}, {{ day(one.at) }}</span>
        <p v-if="one.withdrawn" class="small">{{ one.withdrawn.reason }}</p>
        <p v-if="one.notes" class="small notes">{{ one.notes }}</p>
        <button class="plain small" :aria-label="`Download release ${one.number}`" @click="download(one)">
          Download</button
        ><button
          class="plain small"
          :aria-expanded="talking === one.id"
          :aria-label="`Comments on release ${one.number}`"
          @click="talking = talking === one.id ? undefined : one.id"
        >
          Comments</button
        ><template v-if="session.maySend && !one.withdrawn"
          ><button class="plain small" :aria-label="`Publish release ${one.number}`" @click="publishing = one">
            Publish…</button
          ><button class="plain small" :aria-label="`Withdraw release ${one.number}`" @click="withdrawing = one">
            Withdraw
          </button></template
        >
        <RouterLink
          class="plain small"
          :aria-label="`Release ${one.number} in History`"
          :to="{ name: 'history', query: { release: one.id } }"
          >History</RouterLink
        >
        <Talk v-if="talking === one.id" :id="one.id" about="release" />
      </div>
    </div>
    <ReleaseComparison v-if="compared" :compared="compared" />
    <FormDialog
      v-if="withdrawing"
      :title="`Withdraw ${withdrawing.number}`"
      deed="Withdraw"
      width="420px"
      :busy="busy"
      :ready="!!reason.trim()"
      @submit="withdraw"
      @close="withdrawing = undefined"
      ><p v-if="withdrawing.held_by.length" class="held">
        {{ withdrawing.held_by.join(', ') }} {{ withdrawing.held_by.length === 1 ? 'follows' : 'follow' }} this bundle
        and {{ withdrawing.held_by.length === 1 ? 'has' : 'have' }} this release. They keep its brushes, and are told.
      </p>
      <label>Why<el-input v-model="reason" aria-label="Why it is withdrawn" maxlength="500" /></label
    ></FormDialog>
    <PublishDialog v-if="publishing" :release="publishing" :bundle="bundle" @close="publishing = undefined" />
  </aside>
</template>

<style scoped>
h2 {
  margin-bottom: 4px;
}
.release {
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: 6px;
  padding: 7px 0;
  border-top: 1px solid var(--line);
}
.release p {
  margin: 2px 0;
}
.notes {
  white-space: pre-line;
  max-height: 60px;
  overflow: auto;
}
.gone b {
  text-decoration: line-through;
}
</style>
