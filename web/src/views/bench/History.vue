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

/** Every version with its strip, note, who and when; any two compared, an old one brought back, baseline set anew. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, at } = bench
useScale()
const picked = ref<number[]>([])
const describing = ref<{ number: number; what: 'name' | 'note' }>()
const word = ref('')
const compared = shallowRef<{ one: Document; other: Document; numbers: [number, number]; found: Comparison }>()
const first = computed(() => detail.value!.versions.at(-1)!.number)
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
      of(api.GET('/api/presets/{id}/versions/{number}', { params: { path: { id: bench.id, number: n } } }))
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
const setBaseline = (number: number) =>
  bench.entered(async () => of(api.PUT('/api/presets/{id}/baseline', { ...at, body: { number } })))

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
        await of(api.PUT('/api/presets/{id}/versions/{number}', { params: { path: { id: bench.id, number } }, body })),
      )
    }),
  )
  if (well) describing.value = undefined
}
</script>

<template>
  <el-drawer model-value :title="`History of “${detail!.preset.name}”`" size="560px" @close="emit('close')">
    <p class="soft">Versions never change and are never lost. Tick two to compare them. All strips share one scale.</p>
    <div v-for="version in detail!.versions" :key="version.number" class="version" :data-version="version.number">
      <el-checkbox
        :model-value="picked.includes(version.number)"
        :aria-label="`Compare version ${version.number}`"
        @change="pick(version.number)"
      />
      <Strip :fingerprint="version.fingerprint" :greatest="version.greatest" :label="`version ${version.number}`" />
      <div>
        <div class="line">
          <b>{{ version.number }}</b><b v-if="version.name" class="name">{{ version.name }}</b
          ><span v-if="version.number === detail!.preset.version" class="mark">current</span
          ><span v-if="version.number === detail!.preset.baseline" class="mark"><OwnWord word="baseline" /></span
          ><span v-if="version.number === first" class="soft small">{{ origin }}</span>
        </div>
        <span v-if="version.note">{{ version.note }}<br /></span
        ><span class="soft small">{{ version.by ?? 'unknown' }}, {{ dated(version.at) }}</span>
        <form v-if="describing?.number === version.number" class="line" @submit.prevent="describe">
          <el-input
            v-model="word"
            v-focus
            size="small"
            :aria-label="`${describing.what === 'name' ? 'Name' : 'Note'} of version ${version.number}`"
            :placeholder="describing.what === 'name' ? 'Name (leave empty to remove it)' : 'What changed'"
            :maxlength="describing.what === 'name' ? 60 : 200"
          /><el-button size="small" native-type="submit">Save</el-button>
        </form>
        <div v-else class="deeds">
          <button
            class="plain small"
            :aria-label="`Compare version ${version.number} with the draft`"
            @click="bench.pin(bench.id, version.number)"
          >
            Compare
          </button>
          <template v-if="bench.session.mayEdit">
            <button
              class="plain small"
              :disabled="version.number === detail!.preset.version"
              @click="restore(version.number)"
            >
              Restore
            </button>
            <button
              class="plain small"
              :disabled="version.number === detail!.preset.baseline"
              @click="setBaseline(version.number)"
            >
              Set as baseline
            </button>
            <button class="plain small" @click="ask(version.number, 'name', version.name)">
              {{ version.name ? 'rename' : 'Add name' }}
            </button>
            <button class="plain small" @click="ask(version.number, 'note', version.note)">
              {{ version.note ? 'Edit note' : 'Add note' }}
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
    <template v-if="detail!.baselines.length">
      <h3>Baselines</h3>
      <p v-for="(baseline, index) in detail!.baselines" :key="index" class="soft">
        Version {{ baseline.number }} set as baseline by {{ baseline.by }}, {{ dated(baseline.at) }}
      </p>
      <p class="soft">Version {{ first }} at first, {{ origin }}</p>
    </template>
  </el-drawer>
</template>

<style scoped>
.version {
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
