<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api, of, type Document } from '../../api/client'
import type { components, paths } from '../../api/schema'
import Grounds from '../../parts/Grounds.vue'
import Painted from '../../parts/Painted.vue'
import PresetPicker from '../../parts/PresetPicker.vue'
import { onBench } from './useBench'

/** The same trial stroke for the draft, the current edition and home, and whatever is pinned beside them. */
defineEmits<{ hand: [] }>()
type Comparison = components['schemas']['Comparison']
type Trials = paths['/api/trial-strokes']['get']['responses']['200']['content']['application/json']

const bench = onBench()
const { detail, document, dirty, kept, trying, asTry, ask, pinned } = bench
const trials = ref<Trials>()
const greatest = ref<Record<string, number>>({})
/**
 * All strips are brought down together where one is too large, so that sizes can be compared; in
 * steps, so that a slider does not have all of them painted anew at every move.
 */
const full = ref(0)
const beside = computed(() => {
  const most = Math.max(0, ...Object.values(greatest.value))
  return !full.value || most <= full.value ? 0 : Math.round(full.value * 1.25 ** Math.ceil(Math.log(most / full.value) / Math.log(1.25)))
})
const pinning = ref(false)
const where = ref(false)
const vsCurrent = shallowRef<Comparison>()
const vsHome = shallowRef<Comparison>()

const loadTrials = () => bench.toast.attempt(async () => (trials.value = await of(api.GET('/api/trial-strokes'))))
onMounted(loadTrials)
// A trial stroke of one's own may have been removed since, or belong to somebody else.
watch(trials, (list) => { if (list && !list.trial_strokes.some(({ name }) => name === trying.value.trial)) trying.value.trial = 'swell' })
watch(() => bench.trialsChanged.value, loadTrials)

const compare = async (one: Document, other: Document, picture = false) =>
  of(api.POST('/api/libraries/{library}/comparison', { ...bench.library.path(), body: { one, other, try: asTry.value, picture } }))

// Measured when the hand rests: the strip comes first while a slider moves.
const measureDraft = useDebounceFn(() => bench.toast.attempt(async () => {
  vsCurrent.value = dirty.value ? await compare(detail.value!.document, document.value!, where.value) : undefined
}), 300)
const measureHome = useDebounceFn(() => bench.toast.attempt(async () => {
  const { document: current, home_document: home } = detail.value!
  vsHome.value = await compare(home, current, where.value && !dirty.value)
}), 300)
watch([document, asTry, where], measureDraft, { immediate: true })
watch([detail, asTry, where], measureHome, { immediate: true })

const changes = computed(() => vsCurrent.value?.changes.map(({ words }) => words) ?? [])
const shownWhere = computed(() => (where.value ? (dirty.value ? vsCurrent.value?.picture : vsHome.value?.picture) : undefined))
const numbers = ({ ssim, mean_difference, seen }: Comparison) => (seen === 0 && ssim > 0.9999 ? 'paints the same' : `alike ${Math.round(ssim * 1000) / 10} % · colour ΔE ${Math.round(mean_difference * 10) / 10}`)

async function choose(preset: number) {
  pinning.value = false
  await bench.pin(preset)
}
function unpin(key: string) {
  pinned.value = pinned.value.filter((pin) => pin.key !== key)
  const { [key]: _, ...rest } = greatest.value
  greatest.value = rest
}
const tall = (key: string, size: number, undiminished: number) => {
  full.value = undiminished
  if (greatest.value[key] !== size) greatest.value = { ...greatest.value, [key]: size }
}
const grounds = computed(() => ['', ...(trials.value?.grounds ?? [])])
const title = (text: string) => text.split(':')[0]!
</script>

<template>
  <section class="stack" aria-label="Strokes">
    <div class="line head">
      <h1>{{ document!.name }}</h1>
      <button class="plain star" :aria-pressed="detail!.preset.favourite" :title="detail!.preset.favourite ? 'Among your favourites' : 'Keep among your favourites'" aria-label="Favourite" @click="bench.favourite()">{{ detail!.preset.favourite ? '♥' : '♡' }}</button>
      <span class="soft traits">{{ detail!.preset.traits.join(' · ') }}</span>
      <span v-if="detail!.locked_by" class="locked" :title="`Locked by ${detail!.locked_by}: only a lead saves its next edition`">locked</span>
      <span v-if="dirty" class="changed">{{ changes.length || 1 }} {{ changes.length < 2 ? 'change' : 'changes' }}</span>
      <span class="soft" role="status" title="A change is kept as your draft the moment it happens">{{ { kept: dirty ? 'kept' : '', keeping: 'keeping…', 'not kept': 'not kept yet' }[kept] }}</span>
      <span class="grow" />
      <label class="line soft">stroke
        <el-select v-model="trying.trial" size="small" class="trial" aria-label="Trial stroke" filterable>
          <el-option v-for="one in trials?.trial_strokes ?? []" :key="one.name" :value="one.name" :label="title(one.title)">{{ one.title }}<button v-if="one.own" class="plain remove" :aria-label="`Remove the trial stroke ${one.title}`" @click.stop="bench.removeTrial(one.id!, one.title)">✕</button></el-option>
        </el-select>
      </label>
      <span class="line soft">ground<Grounds v-model="trying.ground" :grounds="grounds" label="Ground" /></span>
      <input v-model="trying.colour" type="color" class="swatch" title="The artist’s colour for trying" aria-label="The artist’s colour for trying" />
      <label class="line soft">size<el-input-number v-model="trying.size" size="small" :min="1" :max="5000" :controls="false" class="size" placeholder="own" aria-label="Size to try at, in px" /></label>
      <label class="line soft">zoom<el-slider v-model="trying.zoom" :min="1" :max="8" :step="1" :show-tooltip="false" aria-label="Zoom" class="zoom" /></label>
      <span class="line"><button class="plain" :aria-pressed="trying.hand" @click="trying.hand = !trying.hand">my hand {{ trying.hand ? 'on' : 'off' }}</button><button class="plain" aria-label="Set up my hand" title="Set up my hand" @click="$emit('hand')">…</button></span>
    </div>
    <div class="rows">
      <div class="row">
        <div><b>{{ dirty ? 'Draft' : 'Now' }}</b><br><span class="soft small">{{ dirty ? 'yours' : 'no change' }}</span></div>
        <Painted long :ask="ask(document, beside)" label="the draft" data-test="live" :zoom="trying.zoom" told @greatest="(size, full) => tall('draft', size, full)" />
        <div class="said"><template v-if="dirty && vsCurrent">{{ numbers(vsCurrent) }}<span class="soft small" :title="changes.join('\n')">{{ changes.join(', ') }}</span></template><button class="plain small" :aria-pressed="where" @click="where = !where">{{ where ? 'hide where' : 'show where they differ' }}</button></div>
      </div>
      <div v-if="shownWhere" class="row">
        <div><b>Where</b><br><span class="soft small">{{ dirty ? 'draft and edition' : 'edition and home' }} differ</span></div>
        <span class="strip where"><img :src="shownWhere" alt="Where the strokes differ" :style="trying.zoom > 1 ? { width: `${trying.zoom * 100}%`, imageRendering: 'pixelated' } : {}"></span>
        <span />
      </div>
      <div class="row">
        <div><b>Edition {{ detail!.preset.edition }}</b><br><span class="soft small">current</span></div>
        <Painted long :ask="ask(detail!.document, beside)" label="the current edition" :zoom="trying.zoom" @greatest="(size, full) => tall('current', size, full)" />
        <div class="said"><template v-if="vsHome && detail!.preset.edition !== detail!.preset.home">{{ numbers(vsHome) }}<span class="soft small" :title="vsHome.changes.map(({ words }) => words).join('\n')">from home: {{ vsHome.changes.map(({ words }) => words).join(', ') || 'nothing' }}</span></template></div>
      </div>
      <div class="row">
        <div><b>Home</b><br><span class="soft small">edition {{ detail!.preset.home }}{{ detail!.homes.length ? '' : ', as received' }}</span></div>
        <Painted long :ask="ask(detail!.home_document, beside)" label="home" :zoom="trying.zoom" @greatest="(size, full) => tall('home', size, full)" />
        <div class="said"><button v-if="!pinning" class="plain" @click="pinning = true">+ pin another brush</button><PresetPicker v-else label="A brush to pin" @pick="choose" @close="pinning = false" /></div>
      </div>
      <div v-for="one in pinned" :key="one.key" class="row">
        <div><b>{{ one.title }}</b><br><span class="soft small">{{ one.note }}</span></div>
        <Painted long :ask="ask(one.document, beside)" :label="one.title" :zoom="trying.zoom" @greatest="(size, full) => tall(one.key, size, full)" />
        <div class="said"><button class="plain" @click="unpin(one.key)">take off</button></div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.stack { padding: 8px 16px 6px; background: var(--card); border-bottom: 1px solid var(--line); }
.head { gap: 10px; margin-bottom: 6px; white-space: nowrap; }
.head h1 { overflow: hidden; text-overflow: ellipsis; flex: none; max-width: 240px; }
.traits { overflow: hidden; text-overflow: ellipsis; min-width: 0; flex: 0 100 auto; }
.head > .line, .head > .changed { flex: none; }
.star { font-size: 15px; color: var(--madder); }
.locked { border: 1px solid var(--line-strong); border-radius: 4px; padding: 0 6px; font-weight: 700; font-size: 12px; }
.trial { width: 108px; }
.remove { float: right; }
.swatch { width: 24px; height: 20px; padding: 0; border: 1px solid var(--line-strong); border-radius: 4px; background: none; cursor: pointer; }
.size { width: 54px; } .zoom { width: 40px; margin: 0 6px; }
.rows { max-height: 276px; overflow: auto; }
.row { display: grid; grid-template-columns: 100px minmax(0, 1fr) 206px; gap: 14px; align-items: center; margin-bottom: 4px; }
/* As tall as a strip whatever it says, so that nothing below moves under the hand. */
.said { display: flex; flex-direction: column; align-items: flex-start; justify-content: center; min-width: 0; height: 64px; overflow: hidden; line-height: 1.22; }
.said > button { padding-block: 0; }
.said > .small:not(button) { display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow: hidden; }
.where { display: block; height: 64px; overflow: auto; border: 1px solid var(--line); border-radius: 6px; background: #fff; }
.where img { display: block; width: 100%; height: 62px; object-fit: contain; }
</style>
