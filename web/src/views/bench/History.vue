<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { api, of, type Document } from '../../api/client'
import type { components } from '../../api/schema'
import Painted from '../../parts/Painted.vue'
import Strip from '../../parts/Strip.vue'
import { onBench } from './useBench'

/** Every edition with its strip, note, who and when; any two compared, an old one brought back, home set anew. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, at } = bench
const picked = ref<number[]>([])
const naming = ref<number>()
const word = ref('')
const compared = shallowRef<{ one: Document; other: Document; numbers: [number, number]; found: components['schemas']['Comparison'] }>()
const day = (text: string) => new Date(text).toLocaleString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' })
const received = computed(() => detail.value!.editions.at(-1)!.number)

async function pick(number: number) {
  picked.value = picked.value.includes(number) ? picked.value.filter((one) => one !== number) : [...picked.value, number].slice(-2)
  compared.value = undefined
  if (picked.value.length < 2) return
  const numbers = [...picked.value].sort((a, b) => a - b) as [number, number]
  await bench.toast.attempt(async () => {
    const [one, other] = await Promise.all(numbers.map((n) => of(api.GET('/api/presets/{id}/editions/{number}', { params: { path: { id: bench.id, number: n } } }))))
    const found = await of(api.POST('/api/libraries/{library}/comparison', { ...bench.library.path(), body: { one: one!.document, other: other!.document, try: bench.asTry.value, picture: true } }))
    compared.value = { one: one!.document, other: other!.document, numbers, found }
  })
}
const restore = (number: number) => bench.entered(async () => of(api.POST('/api/presets/{id}/restore', { ...at, body: { number } })))
const makeHome = (number: number) => bench.entered(async () => of(api.PUT('/api/presets/{id}/home', { ...at, body: { number } })))
function ask(number: number, name: string | null) { naming.value = number; word.value = name ?? '' }
const name = () => bench.doing(async () => {
  bench.take(await of(api.PUT('/api/presets/{id}/editions/{number}', { params: { path: { id: bench.id, number: naming.value! } }, body: { name: word.value } })))
  naming.value = undefined
})
</script>

<template>
  <el-drawer model-value :title="`History of “${detail!.preset.name}”`" size="560px" @close="emit('close')">
    <p class="soft">Editions never change and never vanish. Tick two to compare them.</p>
    <div v-for="edition in detail!.editions" :key="edition.number" class="edition" :data-edition="edition.number">
      <el-checkbox :model-value="picked.includes(edition.number)" :aria-label="`Compare edition ${edition.number}`" @change="pick(edition.number)" />
      <Strip :fingerprint="edition.fingerprint" :label="`edition ${edition.number}`" />
      <div>
        <div class="line"><b>{{ edition.number }}</b><b v-if="edition.name" class="name">{{ edition.name }}</b><span v-if="edition.number === detail!.preset.edition" class="mark">current</span><span v-if="edition.number === detail!.preset.home" class="mark">home</span><span v-if="edition.number === received" class="soft small">as received</span></div>
        <span v-if="edition.note">{{ edition.note }}<br></span><span class="soft small">{{ edition.by ?? 'unknown' }}, {{ day(edition.at) }}</span>
        <form v-if="naming === edition.number" class="line" @submit.prevent="name"><el-input v-model="word" size="small" :aria-label="`Name of edition ${edition.number}`" placeholder="A name; empty takes it off" maxlength="60" autofocus /><el-button size="small" native-type="submit">Name</el-button></form>
        <div v-else class="deeds">
          <button class="plain small" :aria-label="`Pin edition ${edition.number} beside the draft`" @click="bench.pin(bench.id, edition.number)">pin</button>
          <template v-if="bench.session.mayEdit">
          <button class="plain small" :disabled="edition.number === detail!.preset.edition" @click="restore(edition.number)">bring back</button>
          <button class="plain small" :disabled="edition.number === detail!.preset.home" @click="makeHome(edition.number)">make this home</button>
          <button class="plain small" @click="ask(edition.number, edition.name)">{{ edition.name ? 'rename' : 'name it' }}</button>
          </template>
        </div>
      </div>
    </div>
    <template v-if="compared">
      <h3>Edition {{ compared.numbers[0] }} and {{ compared.numbers[1] }}</h3>
      <Painted :ask="bench.ask(compared.one)" :label="`edition ${compared.numbers[0]}`" />
      <Painted :ask="bench.ask(compared.other)" :label="`edition ${compared.numbers[1]}`" />
      <img :src="compared.found.picture ?? ''" alt="Where they differ" class="where">
      <p>SSIM {{ compared.found.ssim }} · CIEDE2000 {{ compared.found.mean_difference }} on average, {{ compared.found.greatest_difference }} at the most · {{ Math.round(compared.found.seen * 1000) / 10 }} % of the strip differs to the eye</p>
      <p>{{ compared.found.changes.map(({ words }) => words).join(', ') || 'No setting differs.' }}</p>
    </template>
    <template v-if="detail!.homes.length">
      <h3>Homes</h3>
      <p v-for="(home, index) in detail!.homes" :key="index" class="soft">Edition {{ home.number }} made home by {{ home.by }}, {{ day(home.at) }}</p>
      <p class="soft">Edition {{ received }} to begin with, as received</p>
    </template>
  </el-drawer>
</template>

<style scoped>
.edition { display: grid; grid-template-columns: 18px 170px 1fr; gap: 10px; align-items: center; padding: 7px 0; border-top: 1px solid var(--line); }
.name { color: var(--accent); }
.mark { border: 1px solid var(--accent); color: var(--accent); border-radius: 4px; padding: 0 5px; font-size: 11.5px; font-weight: 700; }
.deeds { margin-left: -4px; }
h3 { margin: 14px 0 6px; }
p { margin: 4px 0; }
.painted { margin-bottom: 4px; }
.where { display: block; width: 100%; border: 1px solid var(--line); border-radius: 6px; }
</style>
