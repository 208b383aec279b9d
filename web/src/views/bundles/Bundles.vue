<script setup lang="ts">
import spdx from 'spdx-license-ids'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, asFile, of, type Bundle } from '../../api/client'
import type { components } from '../../api/schema'
import Chooser from '../../parts/Chooser.vue'
import ExportDialog from '../../parts/ExportDialog.vue'
import FormDialog from '../../parts/FormDialog.vue'
import OfferDialog from './OfferDialog.vue'
import OrderedList from '../../parts/OrderedList.vue'
import OneScale from '../../parts/OneScale.vue'
import Strip from '../../parts/Strip.vue'
import { save } from '../../parts/save'
import { turns } from '../../parts/newest'
import { useArranged } from '../../parts/useArranged'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'

/** Brushes gathered to be handed over: words, order, preflight, frozen releases. */
type Release = components['schemas']['Release']
const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const bundles = ref<Bundle[]>([])
const chosen = computed(() =>
  route.query.bundle ? bundles.value.find(({ id }) => id === Number(route.query.bundle)) : bundles.value[0],
)
const words = reactive({ name: '', description: '', author: '', licence: '' })
const flight = ref<components['schemas']['Preflight']>()
const releasing = ref(false)
const number = ref('')
const notes = ref('')
const withdrawing = ref<Release>()
const reason = ref('')
const printing = ref(false)
const offering = ref<Release>()
const pair = ref<number[]>([])
const compared = ref<components['schemas']['ReleaseComparison']>()
const busy = ref(false)
const at = () => ({ params: { path: { id: chosen.value!.id } } })
const day = (text: string) =>
  new Date(text).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const fresh = computed(() => tray.ids.filter((id) => !chosen.value?.preset_ids.includes(id)))

const loaded = ref(false)
const load = () =>
  toast.attempt(async () => {
    bundles.value = (await of(api.GET('/api/libraries/{library}/bundles', library.path()))).bundles
    loaded.value = true
  })
onMounted(load)
watch(() => library.stamp, load)

async function check() {
  const id = chosen.value?.id
  if (!id) return
  await toast.attempt(async () => {
    const got = await of(api.GET('/api/bundles/{id}/preflight', at()))
    if (chosen.value?.id === id) flight.value = got
  })
}
watch(
  chosen,
  (now, before) => {
    if (now)
      Object.assign(words, { name: now.name, description: now.description, author: now.author, licence: now.licence })
    if (now?.id !== before?.id) {
      flight.value = undefined
      pair.value = []
      compared.value = undefined
    }
    check()
  },
  { immediate: true },
)
const canvas = ref<{ width: number; height: number }>()
const saveCanvas = () =>
  toast.attempt(async () => {
    await session.paintOn(canvas.value!)
    canvas.value = undefined
    await check()
  })
const worded = computed(
  () =>
    !!chosen.value &&
    (['name', 'description', 'author', 'licence'] as const).some((key) => words[key] !== chosen.value![key]),
)

async function doing(deed: () => Promise<unknown>, said?: string) {
  busy.value = true
  const well = await toast.attempt(async () => {
    await deed()
    await load()
    if (said) toast.done(said)
  })
  busy.value = false
  return well
}
const saveWords = () =>
  doing(() => of(api.PUT('/api/bundles/{id}', { ...at(), body: { ...words } })), 'The words of the bundle are saved.')
const arranged = useArranged(async (id, { ids, sections }, before) => {
  const { entry } = await of(
    api.PUT('/api/bundles/{id}', {
      params: { path: { id } },
      body: { preset_ids: ids, before, ...(sections ? { sections } : {}) },
    }),
  )
  if (entry) toast.done(entry.summary, entry)
}, load)
const put = (ids: number[], sections?: Record<string, string>) =>
  toast.attempt(() => arranged.put(chosen.value!.id, chosen.value!.preset_ids, { ids, sections }))
/** What the bundle holds as it stands on the screen. */
const held = computed(
  () => arranged.shown(chosen.value?.id) ?? { ids: chosen.value?.preset_ids ?? [], sections: chosen.value?.sections },
)
const pictures = ref<HTMLInputElement>()
async function ownCover(file?: File) {
  if (pictures.value) pictures.value.value = ''
  if (file)
    await doing(
      () =>
        of(
          api.PUT('/api/bundles/{id}/picture', {
            params: { path: { id: chosen.value!.id }, query: { file: file.name } },
            ...asFile(file),
          }),
        ),
      'The cover is kept, cut square.',
    )
}
const cover = (id: number) => doing(() => of(api.PUT('/api/bundles/{id}', { ...at(), body: { cover: id } })))
async function make(name: string) {
  let id: number | undefined
  await doing(async () => {
    id = (
      await of(
        api.POST('/api/libraries/{library}/bundles', { ...library.path(), body: { name, preset_ids: tray.ids } }),
      )
    ).id
  })
  return id
}
const drop = () =>
  doing(async () => {
    const { entry } = await of(api.DELETE('/api/bundles/{id}', at()))
    router.replace({ query: {} })
    toast.done(entry.summary, entry)
  })

async function ask() {
  await check()
  number.value = flight.value?.number ?? ''
  notes.value = flight.value?.notes ?? ''
  releasing.value = true
}
async function release() {
  const well = await doing(async () => {
    const made = await of(
      api.POST('/api/bundles/{id}/releases', { ...at(), body: { number: number.value, notes: notes.value } }),
    )
    const what = `“${chosen.value!.name}” ${made.number} is released with ${made.count} brushes.`
    toast.done(`${what} It can be downloaded here for ever.`)
  })
  if (well) releasing.value = false
}
const fetchRelease = (one: Release) =>
  toast.attempt(async () => {
    const answer = await api.GET('/api/releases/{id}/package', { params: { path: { id: one.id } }, parseAs: 'blob' })
    const file = save((await of(Promise.resolve(answer))) as unknown as Blob, answer.response)
    toast.done(`${file} went where this browser keeps its downloads.`)
  })
async function withdraw() {
  const well = await doing(
    () =>
      of(
        api.PUT('/api/releases/{id}/withdraw', {
          params: { path: { id: withdrawing.value!.id } },
          body: { reason: reason.value },
        }),
      ),
    'The release is withdrawn. It can still be downloaded.',
  )
  if (well) {
    withdrawing.value = undefined
    reason.value = ''
  }
}
const turn = turns()
async function pick(id: number) {
  const mine = turn()
  pair.value = pair.value.includes(id) ? pair.value.filter((one) => one !== id) : [...pair.value, id].slice(-2)
  compared.value = undefined
  if (pair.value.length < 2) return
  const [from, to] = [...pair.value].sort((a, b) => a - b)
  await toast.attempt(async () => {
    const got = await of(
      api.GET('/api/bundles/{id}/comparison', {
        params: { path: { id: chosen.value!.id }, query: { from: from!, to: to! } },
      }),
    )
    if (mine()) compared.value = got
  })
}
/** Where a finding can be mended. */
const jump = (key: number | null, kind: string) =>
  key === null ? undefined : router.push(kind === 'hidden' ? { name: 'attic' } : { name: 'bench', params: { id: key } })
const suggest = (text: string, give: (found: { value: string }[]) => void) =>
  give(
    spdx
      .filter((id) => id.toLowerCase().includes(text.toLowerCase()))
      .slice(0, 40)
      .map((value) => ({ value })),
  )
/** Whether there is nothing to release. */
const same = computed(() => !!flight.value?.last && !flight.value.level)
const stops = computed(() => flight.value?.findings.filter((one) => one.stops).length ?? 0)
</script>

<template>
  <div class="page bundles">
    <Chooser
      v-slot="{ one }"
      title="Bundles"
      :list="bundles"
      :chosen="chosen?.id"
      by="bundle"
      :adds="session.mayEdit"
      :add="tray.ids.length ? `New bundle from the tray · ${tray.ids.length}` : 'Name of a new bundle'"
      :make="make"
      ><span class="small soft">{{
        one.releases.find((release) => !release.withdrawn)?.number ?? 'no release'
      }}</span></Chooser
    >
    <section v-if="chosen">
      <div class="line head">
        <h1>{{ chosen.name }}</h1>
        <span class="soft">{{ chosen.preset_ids.length }} brushes</span><span class="grow" />
        <el-button
          v-if="session.mayEdit"
          :disabled="!fresh.length || busy"
          @click="put([...chosen.preset_ids, ...fresh])"
          >Add the tray · {{ fresh.length }}</el-button
        ><el-button :disabled="!chosen.preset_ids.length" @click="printing = true">Proof sheet</el-button>
        <el-button
          v-if="session.mayHandOut"
          type="primary"
          :disabled="busy || !flight || stops > 0 || same"
          :title="same ? `Nothing differs from release ${flight!.last}` : undefined"
          @click="ask"
          >Release…</el-button
        >
      </div>
      <form class="words" :inert="!session.mayEdit" @submit.prevent="saveWords">
        <label>Name<el-input v-model="words.name" aria-label="Name of the bundle" maxlength="100" /></label
        ><label>Author<el-input v-model="words.author" aria-label="Author" maxlength="200" /></label>
        <label
          >Licence (SPDX)<el-autocomplete
            v-model="words.licence"
            :fetch-suggestions="suggest"
            aria-label="Licence"
            placeholder="such as CC-BY-4.0"
        /></label>
        <label class="wide"
          >Description<el-input
            v-model="words.description"
            type="textarea"
            :rows="2"
            aria-label="Description"
            maxlength="5000" /></label
        ><el-button native-type="submit" :disabled="!worded || busy">Save the words</el-button>
      </form>
      <section v-if="flight" class="flight" aria-label="Preflight">
        <div class="line">
          <h2>Preflight</h2>
          <span v-if="stops" class="missing">{{ stops }} to mend before a release</span
          ><span v-else-if="!same" class="soft"
            >ready: the {{ flight.last ? 'next' : 'first' }} release is {{ flight.number
            }}{{ flight.last ? `, a ${flight.level} change` : '' }}</span
          ><span v-else class="soft">nothing differs from release {{ flight.last }}</span
          ><span class="grow" />
          <form v-if="canvas" class="line canvas" @submit.prevent="saveCanvas" @keydown.esc="canvas = undefined">
            canvas<el-input-number
              v-model="canvas.width"
              size="small"
              :min="1"
              :max="100000"
              :precision="0"
              :controls="false"
              aria-label="Width of the studio’s canvas in px"
            />×<el-input-number
              v-model="canvas.height"
              size="small"
              :min="1"
              :max="100000"
              :precision="0"
              :controls="false"
              aria-label="Height of the studio’s canvas in px"
            /><el-button size="small" native-type="submit" :disabled="!canvas.width || !canvas.height">Save</el-button>
          </form>
          <button
            v-else-if="session.mayHandOut"
            class="plain"
            title="The studio’s canvas, which sizes are held against"
            @click="canvas = { ...session.library!.canvas }"
          >
            canvas {{ session.library!.canvas.width }} × {{ session.library!.canvas.height }} px
          </button>
          <span v-else class="soft"
            >canvas {{ session.library!.canvas.width }} × {{ session.library!.canvas.height }} px</span
          >
        </div>
        <div
          v-for="(one, index) in flight.findings.slice(0, 40)"
          :key="index"
          class="finding"
          :class="{ stops: one.stops }"
        >
          <span class="kind" :class="one.stops ? 'missing' : 'changed'">{{ one.kind }}</span><span>{{
            one.sentence
          }}</span
          ><button v-if="one.key !== null" class="plain small" @click="jump(one.key, one.kind)">go there</button>
        </div>
        <p v-if="!flight.findings.length" class="soft">Nothing to mend.</p>
      </section>
      <OrderedList
        narrow
        :ids="held.ids"
        :sections="held.sections ?? chosen.sections"
        :fixed="!session.mayEdit"
        empty="This bundle is empty. Pick brushes on the Wall, then add the tray."
        @change="put"
      />
      <div v-if="chosen.preset_ids.length" class="line cover">
        <label v-if="session.mayEdit" class="line"
          >Cover picture<el-select
            :model-value="chosen.cover ?? ''"
            aria-label="Cover picture"
            placeholder="the strip of…"
            filterable
            default-first-option
            @update:model-value="cover($event as number)"
            ><el-option
              v-for="id in chosen.preset_ids"
              :key="id"
              :value="id"
              :label="library.byId.get(id)?.name ?? ''" /></el-select></label
        ><template v-if="session.mayEdit"
          ><span class="soft">or</span><button class="plain" @click="pictures?.click()">a picture of its own…</button
          ><input
            ref="pictures"
            type="file"
            accept="image/*"
            hidden
            aria-label="Choose a cover picture"
            @change="ownCover(pictures?.files?.[0])" /></template
        ><img v-if="chosen.picture" :src="chosen.picture" class="own" alt="The cover" /><Strip
          v-else-if="chosen.cover"
          :fingerprint="library.byId.get(chosen.cover)?.fingerprint"
          label="the cover"
        />
      </div>
      <button v-if="session.mayEdit && !chosen.releases.length" class="plain small" @click="drop">
        Delete this bundle
      </button>
    </section>
    <div v-else-if="route.query.bundle && loaded" class="empty" role="alert">
      <p>There is no such bundle in {{ session.library?.name }}. It may have been deleted; the Ledger tells.</p>
    </div>
    <div v-else-if="loaded" class="empty">
      <p>No bundles yet. Pick brushes on the Wall, then choose Bundle in the tray.</p>
    </div>
    <aside v-if="chosen" aria-label="Releases">
      <h2>Releases</h2>
      <p v-if="!chosen.releases.length" class="soft">
        None yet. A release freezes the bundle with a number of its own.
      </p>
      <div v-for="one in chosen.releases" :key="one.id" class="release" :class="{ gone: one.withdrawn }">
        <el-checkbox
          :model-value="pair.includes(one.id)"
          :aria-label="`Compare release ${one.number}`"
          @change="pick(one.id)"
        />
        <div>
          <div class="line">
            <b>{{ one.number }}</b><span class="soft">{{ one.count }} brushes</span
            ><span v-if="one.withdrawn" class="missing">withdrawn</span>
          </div>
          <span class="soft small">{{ one.by }}, {{ day(one.at) }}</span>
          <p v-if="one.withdrawn" class="small">{{ one.withdrawn.reason }}</p>
          <p v-if="one.notes" class="small notes">{{ one.notes }}</p>
          <button class="plain small" :aria-label="`Download release ${one.number}`" @click="fetchRelease(one)">
            download</button
          ><button
            v-if="session.mayHandOut && !one.withdrawn"
            class="plain small"
            :aria-label="`Offer release ${one.number}`"
            @click="offering = one"
          >
            offer…</button
          ><button
            v-if="session.mayHandOut && !one.withdrawn"
            class="plain small"
            :aria-label="`Withdraw release ${one.number}`"
            @click="withdrawing = one"
          >
            withdraw
          </button>
        </div>
      </div>
      <template v-if="compared"
        ><h2>What differs</h2>
        <OneScale v-for="row in compared.rows" :key="row.name"
          ><div class="differ">
            <b>{{ row.name }}</b><Strip
              v-if="row.before"
              :fingerprint="row.before.fingerprint"
              :greatest="row.before.greatest ?? undefined"
              :label="`${row.name} before`"
            /><span v-else class="soft">was not there</span
            ><Strip
              v-if="row.after"
              :fingerprint="row.after.fingerprint"
              :greatest="row.after.greatest ?? undefined"
              :label="`${row.name} after`"
            /><span v-else class="missing">gone</span>
          </div></OneScale
        >
        <p v-if="!compared.rows.length" class="soft">No brush differs.</p></template
      >
    </aside>
    <FormDialog
      v-if="releasing"
      :title="`Release “${chosen?.name}”`"
      :deed="`Release ${number}`"
      :busy="busy"
      :ready="!!number.trim()"
      @submit="release"
      @close="releasing = false"
    >
      <p class="soft">
        The changes since {{ flight?.last ?? 'the beginning' }} ask for {{ flight?.number }} at the least; it may be
        raised. What is released never changes.
      </p>
      <label>Number<el-input v-model="number" aria-label="Number of the release" /></label
      ><label>Notes<el-input v-model="notes" type="textarea" :rows="4" aria-label="Notes of the release" /></label>
    </FormDialog>
    <FormDialog
      v-if="withdrawing"
      :title="`Withdraw ${withdrawing.number}`"
      deed="Withdraw it"
      width="420px"
      :busy="busy"
      :ready="!!reason.trim()"
      @submit="withdraw"
      @close="withdrawing = undefined"
      ><label>Why<el-input v-model="reason" aria-label="Why it is withdrawn" maxlength="500" /></label
    ></FormDialog>
    <ExportDialog
      v-if="printing && chosen"
      :which="{ preset_ids: chosen.preset_ids }"
      :count="chosen.preset_ids.length"
      kind="proof"
      :title="chosen.name"
      @close="printing = false"
    />
    <OfferDialog v-if="offering && chosen" :release="offering" :bundle="chosen" @close="offering = undefined" />
  </div>
</template>

<style scoped>
.bundles {
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr) 270px;
  gap: 24px;
  align-content: start;
}
.head {
  margin-bottom: 8px;
  white-space: nowrap;
  flex-wrap: wrap;
}
.words {
  display: grid;
  grid-template-columns: repeat(3, 1fr) auto;
  gap: 8px 12px;
  align-items: end;
  margin-bottom: 12px;
}
.words .wide {
  grid-column: 1 / 4;
}
.flight {
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--card);
  padding: 8px 12px;
  margin-bottom: 10px;
  max-height: 190px;
  overflow: auto;
}
.finding {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 3px 0;
  border-top: 1px solid var(--line);
}
.kind {
  justify-self: start;
}
.flight p {
  margin: 4px 0;
}
.cover {
  margin: 12px 8px;
  flex-wrap: wrap;
}
.own {
  width: 96px;
  height: 96px;
  border-radius: 8px;
  border: 1px solid var(--line);
}
.cover .el-select {
  width: 180px;
}
.cover .strip {
  width: 160px;
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
.differ {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 8px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
  align-items: center;
}
.differ b {
  grid-column: 1 / 3;
}
h2 {
  margin-bottom: 4px;
}
/* In a small window the releases stand below, and the words have the width. */
@media (max-width: 1180px) {
  .bundles {
    grid-template-columns: 180px minmax(0, 1fr);
    gap: 18px;
  }
  .bundles > aside:last-of-type:not(:first-child) {
    grid-column: 2;
  }
  .words {
    grid-template-columns: repeat(2, 1fr);
  }
  .words .wide {
    grid-column: 1 / 3;
  }
}
.canvas {
  flex: none;
  gap: 5px;
}
.canvas .el-input-number {
  width: 66px;
}
.flight .line:first-child > .soft {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.flight .line:first-child > button {
  flex: none;
}
</style>
