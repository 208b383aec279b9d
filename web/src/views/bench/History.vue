<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { api, of, type Comparison, type Document } from '../../api/client'
import { turns } from '../../parts/newest'
import Painted from '../../parts/Painted.vue'
import { useScale } from '../../parts/scale'
import Strip from '../../parts/Strip.vue'
import { onBench } from './useBench'
import { dated } from '../../parts/when'
import { alike } from './words'
import OwnWord from '../../parts/OwnWord.vue'

/** Every edition with its strip, note, who and when; any two compared, an old one brought back, home set anew. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, at } = bench
useScale()
const picked = ref<number[]>([])
const describing = ref<{ number: number; what: 'name' | 'note' }>()
const word = ref('')
const compared = shallowRef<{ one: Document; other: Document; numbers: [number, number]; found: Comparison }>()
const first = computed(() => detail.value!.editions.at(-1)!.number)
const origin = computed(() => (detail.value!.origin === 'received' ? 'as received' : 'as made'))

const turn = turns()
async function pick(number: number) {
  const mine = turn()
  picked.value = picked.value.includes(number)
    ? picked.value.filter((one) => one !== number)
    : [...picked.value, number].slice(-2)
  compared.value = undefined
  if (picked.value.length < 2) return
  const numbers = [...picked.value].sort((a, b) => a - b) as [number, number]
  await bench.toast.attempt(async () => {
    const read = (n: number) =>
      of(api.GET('/api/presets/{id}/editions/{number}', { params: { path: { id: bench.id, number: n } } }))
    const [one, other] = (await Promise.all(numbers.map(read))).map(({ document }) => document as Document) as [
      Document,
      Document,
    ]
    const body = { one, other, try: bench.asTry.value, picture: true }
    const found = await of(api.POST('/api/libraries/{library}/comparison', { ...bench.library.path(), body }))
    if (mine()) compared.value = { one, other, numbers, found }
  })
}
const restore = (number: number) =>
  bench.entered(async () => of(api.POST('/api/presets/{id}/restore', { ...at, body: { number } })))
const makeHome = (number: number) =>
  bench.entered(async () => of(api.PUT('/api/presets/{id}/home', { ...at, body: { number } })))

function ask(number: number, what: 'name' | 'note', now: string | null) {
  describing.value = { number, what }
  word.value = now ?? ''
}
async function describe() {
  const { number, what } = describing.value!
  const well = await bench.toast.attempt(() =>
    bench.doing(async () => {
      const body = { [what]: word.value }
      bench.take(
        await of(api.PUT('/api/presets/{id}/editions/{number}', { params: { path: { id: bench.id, number } }, body })),
      )
    }),
  )
  if (well) describing.value = undefined
}
</script>

<template>
  <el-drawer model-value :title="`History of “${detail!.preset.name}”`" size="560px" @close="emit('close')">
    <p class="soft">Versions never change and are never lost. Tick two to compare them. All strips share one scale.</p>
    <div v-for="edition in detail!.editions" :key="edition.number" class="edition" :data-edition="edition.number">
      <el-checkbox
        :model-value="picked.includes(edition.number)"
        :aria-label="`Compare version ${edition.number}`"
        @change="pick(edition.number)"
      />
      <Strip :fingerprint="edition.fingerprint" :greatest="edition.greatest" :label="`version ${edition.number}`" />
      <div>
        <div class="line">
          <b>{{ edition.number }}</b><b v-if="edition.name" class="name">{{ edition.name }}</b
          ><span v-if="edition.number === detail!.preset.edition" class="mark">current</span
          ><span v-if="edition.number === detail!.preset.home" class="mark"><OwnWord word="baseline" /></span
          ><span v-if="edition.number === first" class="soft small">{{ origin }}</span>
        </div>
        <span v-if="edition.note">{{ edition.note }}<br /></span
        ><span class="soft small">{{ edition.by ?? 'unknown' }}, {{ dated(edition.at) }}</span>
        <form v-if="describing?.number === edition.number" class="line" @submit.prevent="describe">
          <el-input
            v-model="word"
            v-focus
            size="small"
            :aria-label="`${describing.what === 'name' ? 'Name' : 'Note'} of version ${edition.number}`"
            :placeholder="describing.what === 'name' ? 'Name (leave empty to remove it)' : 'What changed'"
            :maxlength="describing.what === 'name' ? 60 : 200"
          /><el-button size="small" native-type="submit">Keep</el-button>
        </form>
        <div v-else class="deeds">
          <button
            class="plain small"
            :aria-label="`Compare version ${edition.number} with the draft`"
            @click="bench.pin(bench.id, edition.number)"
          >
            Compare
          </button>
          <template v-if="bench.session.mayEdit">
            <button
              class="plain small"
              :disabled="edition.number === detail!.preset.edition"
              @click="restore(edition.number)"
            >
              Restore
            </button>
            <button
              class="plain small"
              :disabled="edition.number === detail!.preset.home"
              @click="makeHome(edition.number)"
            >
              Set as baseline
            </button>
            <button class="plain small" @click="ask(edition.number, 'name', edition.name)">
              {{ edition.name ? 'rename' : 'Add name' }}
            </button>
            <button class="plain small" @click="ask(edition.number, 'note', edition.note)">
              {{ edition.note ? 'Edit note' : 'Add note' }}
            </button>
          </template>
        </div>
      </div>
    </div>
    <template v-if="compared">
      <h3>Version {{ compared.numbers[0] }} and {{ compared.numbers[1] }}</h3>
      <Painted :ask="bench.ask(compared.one)" :label="`version ${compared.numbers[0]}`" />
      <Painted :ask="bench.ask(compared.other)" :label="`version ${compared.numbers[1]}`" />
      <img :src="compared.found.picture ?? ''" alt="Where they differ" class="where" />
      <p>
        {{ alike(compared.found) }} on average, {{ Math.round(compared.found.greatest_difference * 10) / 10 }} at the
        most · {{ Math.round(compared.found.seen * 1000) / 10 }} % of the strip differs to the eye
      </p>
      <p>{{ compared.found.changes.map(({ words }) => words).join(', ') || 'No setting differs.' }}</p>
    </template>
    <template v-if="detail!.homes.length">
      <h3>Baselines</h3>
      <p v-for="(home, index) in detail!.homes" :key="index" class="soft">
        Version {{ home.number }} set as baseline by {{ home.by }}, {{ dated(home.at) }}
      </p>
      <p class="soft">Version {{ first }} at first, {{ origin }}</p>
    </template>
  </el-drawer>
</template>

<style scoped>
.edition {
  display: grid;
  grid-template-columns: 18px 170px 1fr;
  gap: 10px;
  align-items: center;
  padding: 7px 0;
  border-top: 1px solid var(--line);
}
.name {
  color: var(--accent);
}
.mark {
  border: 1px solid var(--accent);
  color: var(--accent);
  border-radius: 4px;
  padding: 0 5px;
  font-size: 11.5px;
  font-weight: 700;
}
.deeds {
  margin-left: -4px;
}
h3 {
  margin: 14px 0 6px;
}
p {
  margin: 4px 0;
}
.painted {
  margin-bottom: 4px;
}
.where {
  display: block;
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
