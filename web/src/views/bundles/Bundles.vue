<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type Bundle } from '../../api/client'
import type { components } from '../../api/schema'
import Chooser from '../../parts/Chooser.vue'
import ExportDialog from '../../parts/ExportDialog.vue'
import OrderedList from '../../parts/OrderedList.vue'
import { useArranged } from '../../parts/useArranged'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import BundleWords from './BundleWords.vue'
import Cover from './Cover.vue'
import Preflight from './Preflight.vue'
import ReleaseDialog from './ReleaseDialog.vue'
import Releases from './Releases.vue'
import { useDoing } from './useDoing'

/** Brushes gathered to be handed over: words, order, preflight, frozen releases. */
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
const flight = ref<components['schemas']['Preflight']>()
const releasing = ref(false)
const printing = ref(false)
const at = () => ({ params: { path: { id: chosen.value!.id } } })
const fresh = computed(() => tray.ids.filter((id) => !chosen.value?.preset_ids.includes(id)))

const loaded = ref(false)
const load = () =>
  toast.attempt(async () => {
    bundles.value = (await of(api.GET('/api/libraries/{library}/bundles', library.path()))).bundles
    loaded.value = true
  })
onMounted(load)
watch(() => library.stamp, load)
const { busy, doing } = useDoing(load)

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
    if (now?.id !== before?.id) flight.value = undefined
    check()
  },
  { immediate: true },
)

const arranged = useArranged(async (id, { ids, sections }, before) => {
  const body = { preset_ids: ids, before, ...(sections ? { sections } : {}) }
  const { entry } = await of(api.PUT('/api/bundles/{id}', { params: { path: { id } }, body }))
  if (entry) toast.done(entry.summary, entry)
}, load)
const put = (ids: number[], sections?: Record<string, string>) =>
  toast.attempt(() => arranged.put(chosen.value!.id, chosen.value!.preset_ids, { ids, sections }))
/** What the bundle holds as it stands on the screen. */
const held = computed(
  () => arranged.shown(chosen.value?.id) ?? { ids: chosen.value?.preset_ids ?? [], sections: chosen.value?.sections },
)

async function make(name: string) {
  let id: number | undefined
  await doing(async () => {
    const body = { name, preset_ids: tray.ids }
    id = (await of(api.POST('/api/libraries/{library}/bundles', { ...library.path(), body }))).id
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
  releasing.value = true
}
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
      :add="tray.ids.length ? `New bundle from the tray (${tray.ids.length})` : 'Name of a new bundle'"
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
          >Add the tray ({{ fresh.length }})</el-button
        ><el-button :disabled="!chosen.preset_ids.length" @click="printing = true">Proof sheet</el-button>
        <el-button
          v-if="session.maySend"
          type="primary"
          :disabled="busy || !flight || stops > 0 || same"
          :title="same ? `No changes since release ${flight!.last}` : undefined"
          @click="ask"
          >Release…</el-button
        >
      </div>
      <BundleWords :bundle="chosen" :busy="busy" :doing="doing" />
      <Preflight v-if="flight" :flight="flight" :stops="stops" :same="same" @check="check" />
      <OrderedList
        narrow
        :ids="held.ids"
        :sections="held.sections ?? chosen.sections"
        :fixed="!session.mayEdit"
        empty="This bundle is empty. Select brushes, then add the tray."
        @change="put"
      />
      <Cover v-if="chosen.preset_ids.length" :bundle="chosen" :doing="doing" />
      <button v-if="session.mayEdit && !chosen.releases.length" class="plain small" @click="drop">Delete bundle</button>
    </section>
    <div v-else-if="route.query.bundle && loaded" class="empty" role="alert">
      <p>This bundle doesn’t exist in {{ session.library?.name }}. If it was deleted, History shows when.</p>
    </div>
    <div v-else-if="loaded" class="empty">
      <p>No bundles yet. Select brushes, then choose Bundle in the tray.</p>
    </div>
    <Releases v-if="chosen" :bundle="chosen" :busy="busy" :doing="doing" />
    <ReleaseDialog
      v-if="releasing && chosen && flight"
      :bundle="chosen"
      :flight="flight"
      :busy="busy"
      :doing="doing"
      @close="releasing = false"
    />
    <ExportDialog
      v-if="printing && chosen"
      :which="{ preset_ids: chosen.preset_ids }"
      :count="chosen.preset_ids.length"
      kind="proof"
      :title="chosen.name"
      @close="printing = false"
    />
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
/* In a small window the releases stand below, and the words have the width. */
@media (max-width: 1180px) {
  .bundles {
    grid-template-columns: 180px minmax(0, 1fr);
    gap: 18px;
  }
  .bundles > aside:last-of-type:not(:first-child) {
    grid-column: 2;
  }
}
</style>
