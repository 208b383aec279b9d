<script setup lang="ts">
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router'
import { api, of, type Detail, type Document } from '../../api/client'
import NumberField from '../../parts/NumberField.vue'
import Strip from '../../parts/Strip.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { answerOf, CURVES, curveName, differences, same, settings, shown, valueAt, withAnswer, withValue, type Setting } from './settings'
import { useLiveStrip } from './useLiveStrip'

const route = useRoute()
const router = useRouter()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const id = Number(route.params.id)
const at = { params: { path: { id } } }
const detail = ref<Detail>()
const document = shallowRef<Document>()
const note = ref('')
const busy = ref(false)
const kept = ref<'kept' | 'keeping' | 'not kept'>('kept')
const { src, problem, took } = useLiveStrip(() => detail.value!.library, document)

const list = computed(() => (document.value ? settings(document.value) : []))
const groups = computed(() => [...new Set(list.value.map(({ group }) => group))].map((group) => ({ group, list: list.value.filter((one) => one.group === group) })))
const dirty = computed(() => !!document.value && !same(document.value, detail.value?.document))
const changes = computed(() => (detail.value && document.value ? differences(detail.value.document, document.value) : []))
const sinceHome = computed(() => (detail.value ? differences(detail.value.home_document, detail.value.document) : []))
function take(got: Detail) {
  detail.value = got
  document.value = got.draft?.document ?? got.document
}

onMounted(() =>
  toast.attempt(async () => {
    take(await of(api.GET('/api/presets/{id}', at)))
  }),
)

// --- a change is kept the moment it happens ---------------------------------------------
let waiting: Document | undefined

async function keep() {
  const sending = waiting
  if (!sending) return
  waiting = undefined
  try {
    await of(api.PUT('/api/presets/{id}/draft', { ...at, body: { document: sending }, keepalive: true }))
    kept.value = waiting ? 'keeping' : 'kept'
  } catch (error) {
    waiting ??= sending
    kept.value = 'not kept'
    toast.problem(error)
  }
}
const keepSoon = useDebounceFn(keep, 350, { maxWait: 900 })

function tune(next: Document) {
  if (!session.mayEdit) return
  document.value = next
  waiting = next
  kept.value = 'keeping'
  keepSoon()
}

const set = ({ path, unit }: Setting, value: number | boolean) => {
  if (!document.value) return
  tune(withValue(document.value, path, typeof value === 'number' && unit === '%' ? Math.round(value * 10) / 1000 : value))
}
const onScale = ({ unit }: Setting, value: unknown) => (typeof value === 'number' && unit === '%' ? Math.round(value * 1000) / 10 : (value as number))

/** Where home lies on a slider, 0–1. */
const tick = (one: Setting) => Math.min(1, Math.max(0, (onScale(one, valueAt(detail.value!.home_document, one.path)) - one.least) / (one.most - one.least)))

useEventListener(window, 'pagehide', keep)
onBeforeRouteLeave(async () => { await keep() })
onBeforeUnmount(() => library.load().catch(() => undefined))

// --- saving and going back ---------------------------------------------------------------
async function doing(deed: () => Promise<void>) {
  busy.value = true
  await keep()
  await toast.attempt(deed)
  busy.value = false
}

const saveEdition = () => doing(async () => {
  const got = await of(api.POST('/api/presets/{id}/editions', { ...at, body: { document: document.value!, base: detail.value!.draft?.base ?? detail.value!.preset.edition, note: note.value } }))
  take(got)
  note.value = ''
  await library.load()
  toast.done(`Saved as edition ${got.preset.edition}: all its settings, its tip and its grain. Colour only where it is fixed; no layer, no mirror.`)
})

const saveVariation = () => doing(async () => {
  const got = await of(api.POST('/api/presets/{id}/variations', { ...at, body: { document: document.value! } }))
  await library.load()
  toast.done(`Saved as a new brush, “${got.preset.name}”. “${detail.value!.preset.name}” stays as it was.`)
  await router.push({ name: 'bench', params: { id: got.preset.id } })
})

const discard = () => doing(async () => {
  const before = document.value!
  await of(api.DELETE('/api/presets/{id}/draft', at))
  document.value = detail.value!.document
  toast.done('Your change is discarded.')
  discarded.value = before
})
const discarded = shallowRef<Document>()
const fetchBack = () => { tune(discarded.value!); discarded.value = undefined; toast.hide() }

const resetHome = () => doing(async () => {
  const { entry } = await of(api.POST('/api/libraries/{library}/reset', { ...library.path(), body: { preset_ids: [id] } }))
  take(await of(api.GET('/api/presets/{id}', at)))
  await library.load()
  toast.done(entry.summary, entry)
})
</script>

<template>
  <div v-if="detail && document" class="bench">
    <section class="stack">
      <div class="title line">
        <h1>{{ document.name }}</h1>
        <span class="soft">{{ detail.preset.traits.join(' · ') }}</span>
        <span v-if="dirty" class="changed">{{ changes.length }} {{ changes.length === 1 ? 'change' : 'changes' }}, yours</span>
        <span class="soft" role="status">{{ { kept: dirty ? 'kept as your draft' : '', keeping: 'keeping…', 'not kept': 'not kept yet' }[kept] }}</span>
        <span class="grow" />
        <router-link :to="{ name: 'wall' }" class="back">Back to the Wall</router-link>
      </div>
      <div class="stroke"><div><b>{{ dirty ? 'Draft' : 'Now' }}</b><br><span class="soft small">{{ took ? `painted in ${took} ms` : '' }}</span></div><Strip :src="src" label="the draft" data-test="live" /><ul class="soft"><li v-for="one in changes" :key="one">{{ one }}</li></ul></div>
      <div class="stroke"><div><b>Edition {{ detail.preset.edition }}</b><br><span class="soft small">current</span></div><Strip :fingerprint="detail.preset.fingerprint" label="the current edition" /><ul class="soft"><li v-for="one in sinceHome" :key="one">{{ one }}</li></ul></div>
      <div class="stroke"><div><b>Home</b><br><span class="soft small">edition {{ detail.preset.home }}, as received</span></div><Strip :fingerprint="detail.editions.find(({ number }) => number === detail!.preset.home)?.fingerprint" label="the edition received" /></div>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </section>

    <section class="settings" :inert="!session.mayEdit">
      <div v-for="{ group, list: inside } in groups" :key="group" class="group">
        <h2>{{ group }}</h2>
        <div v-for="one in inside" :key="one.path.join('.')" class="setting">
          <label :title="one.help">{{ one.title }}</label>
          <el-switch v-if="one.kind === 'switch'" :model-value="valueAt(document, one.path) as boolean" :aria-label="one.title" size="small" @update:model-value="set(one, $event as boolean)" />
          <template v-else>
            <div class="slide">
              <el-slider :model-value="onScale(one, valueAt(document, one.path))" :min="one.least" :max="one.most" :step="one.step" :show-tooltip="false" :aria-label="one.title" @input="set(one, $event as number)" />
              <i class="home" :style="{ left: `calc(6px + (100% - 12px) * ${tick(one)})` }" :title="`Home: ${shown(one, valueAt(detail.home_document, one.path))}`" />
            </div>
            <NumberField :model-value="onScale(one, valueAt(document, one.path))" :min="one.least" :max="Math.max(one.most, one.unit === 'px' ? 5000 : one.most)" :step="one.step" :label="`${one.title} in ${one.unit || 'number'}`" @update:model-value="set(one, $event)" />
            <span class="soft small unit">{{ one.unit }}</span>
          </template>
          <button v-if="!same(valueAt(document, one.path), valueAt(detail.home_document, one.path))" class="plain way-back" :aria-label="`${one.title} back to home, ${shown(one, valueAt(detail.home_document, one.path))}`" @click="tune(withValue(document!, one.path, valueAt(detail!.home_document, one.path)))">↩</button>
        </div>
      </div>
      <div class="group">
        <h2>Response <span class="soft small">to pressure</span></h2>
        <div v-for="drives in ['size', 'opacity']" :key="drives" class="answer">
          <div class="setting">
            <label>{{ drives === 'size' ? 'Size' : 'Opacity' }} answers</label>
            <el-switch :model-value="!!answerOf(document, drives)" size="small" :aria-label="`${drives} answers to pressure`" @update:model-value="tune(withAnswer(document!, drives, $event ? {} : undefined))" />
            <span v-if="!answerOf(document, drives)" class="soft small">no: the same at any pressure</span>
          </div>
          <template v-if="answerOf(document, drives)">
            <div v-for="end in (['from', 'to'] as const)" :key="end" class="setting">
              <label>{{ end === 'from' ? 'lightest' : 'hardest' }}</label>
              <div class="slide"><el-slider :model-value="Math.round(answerOf(document, drives)![end] * 100)" :min="0" :max="100" :show-tooltip="false" :aria-label="`${drives} at the ${end === 'from' ? 'lightest' : 'hardest'} press`" @input="tune(withAnswer(document!, drives, { [end]: ($event as number) / 100 }))" /></div>
              <span class="soft">{{ Math.round(answerOf(document, drives)![end] * 100) }} %</span>
            </div>
            <div class="setting">
              <label>rise</label>
              <el-radio-group :model-value="curveName(answerOf(document, drives)!.curve)" size="small" :aria-label="`How ${drives} rises`" @update:model-value="tune(withAnswer(document!, drives, { curve: CURVES[$event as string] ?? answerOf(document!, drives)!.curve }))">
                <el-radio-button v-for="name in Object.keys(CURVES)" :key="name" :value="name" :label="name" />
                <el-radio-button v-if="curveName(answerOf(document, drives)!.curve) === 'own'" value="own" label="own" />
              </el-radio-group>
            </div>
          </template>
        </div>
      </div>
    </section>

    <section v-if="session.mayEdit" class="saving line" aria-label="Save">
      <b>Save</b>
      <el-input v-model="note" class="note" placeholder="What changed (optional)" aria-label="A note for this edition" maxlength="200" :disabled="!dirty" />
      <el-button type="primary" :disabled="!dirty || busy" @click="saveEdition">as edition {{ Math.max(...detail.editions.map(({ number }) => number)) + 1 }}</el-button>
      <el-button :disabled="!dirty || busy" @click="saveVariation">as new brush “{{ detail.next_name }}”</el-button>
      <span class="grow" />
      <el-button v-if="discarded && !dirty" @click="fetchBack">Bring my change back</el-button>
      <el-button :disabled="!dirty || busy" @click="discard">Discard my change</el-button>
      <el-button :disabled="busy || (!dirty && !detail.preset.altered)" @click="resetHome">Back to edition {{ detail.preset.home }}, as received</el-button>
    </section>
  </div>
</template>

<style scoped>
.bench { display: grid; grid-template-rows: auto minmax(0, 1fr) auto; height: 100%; }
.stack { padding: 12px 16px 10px; background: var(--card); border-bottom: 1px solid var(--line); }
.title { margin-bottom: 8px; }
.back { color: var(--accent); font-weight: 600; text-decoration: none; }
.stroke { display: grid; grid-template-columns: 130px minmax(0, 470px) minmax(0, 1fr); gap: 14px; align-items: center; margin-bottom: 6px; }
.stroke ul { margin: 0; padding: 0; list-style: none; max-height: 80px; overflow: auto; }
.settings { display: grid; grid-template-columns: repeat(auto-fill, minmax(390px, 1fr)); gap: 0 32px; align-content: start; padding: 6px 16px 16px; overflow: auto; }
.group { break-inside: avoid; }
.group h2 { font-size: 13px; margin: 12px 0 2px; }
.setting { display: grid; grid-template-columns: 112px 1fr 62px 16px 26px; gap: 10px; align-items: center; min-height: 26px; }
.setting > label { color: var(--soft); }
.setting .el-switch { justify-self: start; }
.setting .el-radio-group, .setting > .small:not(.unit) { grid-column: 2 / -1; flex-wrap: nowrap; }
.answer .setting > .small { grid-column: 3 / -1; }
.slide { position: relative; padding: 0 6px; }
.slide .el-slider { height: 22px; }
.home { position: absolute; top: 3px; width: 2px; height: 16px; transform: translateX(-50%); background: var(--ochre); pointer-events: none; border-radius: 1px; }
.way-back { color: var(--ochre); font-size: 15px; line-height: 1; }
.saving { padding: 10px 16px; background: var(--card); border-top: 1px solid var(--line); }
.saving :deep(.el-button + .el-button) { margin-left: 0; }
.note { width: 200px; }
.problem { margin: 4px 0 0; color: var(--madder); }
</style>
