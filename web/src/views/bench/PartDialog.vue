<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type Document } from '../../api/client'
import type { paths } from '../../api/schema'
import PartPicture from '../../parts/PartPicture.vue'
import { same } from './settings'
import { onBench } from './useBench'

/** The tip or grain of the brush to look at, and all others of the library to exchange it for. */
const props = defineProps<{ kind: 'tip' | 'grain' }>()
const emit = defineEmits<{ close: [] }>()
type Parts = paths['/api/libraries/{library}/parts']['get']['responses']['200']['content']['application/json']
const bench = onBench()
const { document } = bench
const parts = ref<Parts>()
const word = ref('')
const problem = ref('')

onMounted(async () => {
  try {
    parts.value = await of(api.GET('/api/libraries/{library}/parts', bench.library.path()))
  } catch (error) {
    problem.value = (error as Error).message
  }
})

const now = computed<Document>(() => document.value!.tip.form)
const frames = computed(
  () =>
    (props.kind === 'grain' ? [document.value!.grain?.asset] : [...(now.value.frames ?? []), now.value.asset]).filter(
      Boolean,
    ) as string[],
)
const named = (brushes: string[], count: number) =>
  `${brushes.join(', ')}${count > brushes.length ? ` and ${count - brushes.length} more` : ''}`
const list = computed(() => {
  const all =
    props.kind === 'tip'
      ? ((parts.value?.tips ?? []) as { tip: Document; brushes: string[]; count: number }[]).map(
          ({ tip, brushes, count }) => ({
            value: tip as unknown,
            picture: (tip.frames?.[0] ?? tip.asset) as string,
            more: (tip.frames?.length ?? 1) as number,
            brushes,
            count,
          }),
        )
      : (parts.value?.grains ?? []).map(({ asset, brushes, count }) => ({
          value: asset as unknown,
          picture: asset,
          more: 1,
          brushes,
          count,
        }))
  return all.filter(({ brushes }) => brushes.join(' ').toLowerCase().includes(word.value.trim().toLowerCase()))
})
const chosen = (value: unknown) =>
  props.kind === 'tip' ? same(value, now.value) : value === document.value!.grain?.asset

function choose(value: unknown) {
  const one = document.value!
  if (props.kind === 'tip') {
    // What a ribbon bends must be drawn.
    const method = (value as Document).kind === 'round' && one.method === 'ribbon' ? 'dabs' : one.method
    bench.tune({ ...one, method, tip: { ...one.tip, form: value } })
  } else {
    bench.tune({ ...one, grain: { scale: 1, depth: 0.5, travel: 1, invert: false, ...one.grain, asset: value } })
  }
  emit('close')
}
const router = useRouter()
/** As pages of the tip maker; what comes of them can be this brush's new tip. */
const inTipMaker = () =>
  bench.toast.attempt(async () => {
    const body = { parts: frames.value.map((one) => one.slice(7)), name: document.value!.name }
    const work = await of(api.POST('/api/libraries/{library}/works/made', { ...bench.library.path(), body }))
    await router.push({ name: 'tip-maker', query: { work: work.id, brush: bench.id } })
  })
const ROUND = { kind: 'round', hardness: 1 }
</script>

<template>
  <el-dialog model-value :title="kind === 'tip' ? 'The tip' : 'The grain'" width="760px" @close="emit('close')">
    <div v-if="frames.length" class="frames">
      <figure v-for="(one, index) in frames" :key="index">
        <PartPicture :reference="one" :label="`Picture ${index + 1}`" />
        <figcaption v-if="frames.length > 1" class="soft small">{{ index + 1 }}</figcaption>
      </figure>
    </div>
    <p v-else class="soft">
      {{ kind === 'tip' ? 'A round tip, computed: it has a hardness and no picture.' : 'This brush has no grain.' }}
    </p>
    <template v-if="bench.session.mayEdit">
      <button v-if="kind === 'tip' && frames.length" class="plain" @click="inTipMaker">
        {{ frames.length > 1 ? 'Edit the reel in the Tip maker' : 'Edit in the Tip maker' }}
      </button>
      <div class="line">
        <h3>Replace with one from this library</h3>
        <span class="grow" /><el-input
          v-model="word"
          size="small"
          class="word"
          placeholder="a brush that has it"
          aria-label="Find by a brush that has it"
        />
      </div>
      <p v-if="problem" class="soft" role="alert">{{ problem }}</p>
      <div class="list">
        <button v-if="kind === 'tip' && !word" class="part" :aria-pressed="now.kind === 'round'" @click="choose(ROUND)">
          <i class="round" /><span>round</span>
        </button>
        <button
          v-for="one in list"
          :key="JSON.stringify(one.value)"
          class="part"
          :aria-pressed="chosen(one.value)"
          :title="named(one.brushes, one.count)"
          @click="choose(one.value)"
        >
          <PartPicture
            :reference="one.picture"
            :label="one.more > 1 ? `${one.more} pictures, as in ${one.brushes[0]}` : `as in ${one.brushes[0]}`"
          /><span>{{ one.brushes[0] }}{{ one.count > 1 ? ` +${one.count - 1}` : '' }}</span>
        </button>
        <p v-if="parts && !list.length" class="soft">
          No other brush here has one. Import a picture, or make one in the Tip maker.
        </p>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
.frames {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  padding-bottom: 6px;
}
.frames figure {
  margin: 0;
  flex: 0 0 96px;
  text-align: center;
}
.frames :deep(img) {
  height: 96px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.word {
  width: 190px;
}
.list {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(108px, 1fr));
  gap: 10px;
  max-height: 46vh;
  overflow: auto;
  margin-top: 8px;
  padding: 2px;
}
.part {
  font: inherit;
  font-size: 12px;
  color: var(--ink);
  background: none;
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 5px;
  cursor: pointer;
  min-width: 0;
}
.part:hover {
  border-color: var(--accent);
}
.part[aria-pressed='true'] {
  outline: 2px solid var(--accent);
}
.part :deep(img),
.round {
  height: 74px;
  border-radius: 5px;
}
.round {
  display: block;
  background: radial-gradient(circle closest-side, #1d2026 92%, #fff 94%);
}
.part span {
  display: block;
  margin-top: 3px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
