<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, asFile, of, type Tip } from '../../api/client'
import Strip from '../../parts/Strip.vue'
import { useArrival } from '../../stores/arrival'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

const arrival = useArrival()
const library = useLibrary()
const toast = useToast()
const router = useRouter()

const file = shallowRef<File>()
const tip = ref<Tip>()
const problem = ref('')
const busy = ref(false)
const name = ref('')
const invert = ref(false)
const crop = ref(true)
const crisp = ref(false)
const white = ref<number>()
const size = ref(40)
const spacing = ref(25)
const input = ref<HTMLInputElement>()

/** What is no single still picture is the Intake's, where shapes stay shapes and reels stay reels. */
const toIntake = (chosen: File) => arrival.take([{ name: chosen.name, file: chosen }], true)
function take(chosen: File | undefined | null) {
  if (!chosen) return
  if (input.value) input.value.value = ''
  if (/\.(svg|ora|zip|json|csv)$/i.test(chosen.name)) return void toIntake(chosen)
  file.value = chosen
  white.value = undefined
  tip.value = undefined
  name.value = chosen.name
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
    .replace(/^./, (first) => first.toUpperCase())
    .slice(0, 100)
}

watch(
  () => arrival.picture,
  (dropped) => {
    take(dropped)
    arrival.picture = undefined
  },
  { immediate: true },
)

const query = () => ({
  file: file.value!.name,
  invert: invert.value,
  crop: crop.value,
  crisp: crisp.value,
  white: white.value,
  size: size.value,
  spacing: spacing.value / 100,
})

let turn = 0
async function look() {
  if (!file.value) return
  const mine = ++turn
  try {
    const got = await of(
      api.POST('/api/libraries/{library}/tips', {
        params: { ...library.path().params, query: query() },
        ...asFile(file.value),
      }),
    )
    if (mine !== turn) return
    tip.value = got
    problem.value = ''
  } catch (error) {
    if (mine !== turn) return
    tip.value = undefined
    problem.value = (error as Error).message
  }
}
watch([file, invert, crop, crisp], look, { immediate: true })
watchDebounced([white, size, spacing], look, { debounce: 80 })

async function save() {
  busy.value = true
  await toast.attempt(async () => {
    const made = await of(
      api.POST('/api/libraries/{library}/presets', {
        params: { ...library.path().params, query: { ...query(), name: name.value } },
        ...asFile(file.value!),
      }),
    )
    await library.load()
    toast.done(`“${made.name}” is a brush now: its tip, size, spacing and answer to pressure are kept.`)
    await router.push({ name: 'bench', params: { id: made.id } })
  })
  busy.value = false
}

const percent = (share: number) => (share > 0 && share < 0.01 ? 'under 1 %' : `${Math.round(share * 100)} %`)
</script>

<template>
  <div class="page maker">
    <div class="line head">
      <h1>Tip maker</h1>
      <span class="soft">A dark mark on white becomes a tip: black paints fully, white not at all.</span>
    </div>
    <input
      ref="input"
      type="file"
      accept="image/png,image/jpeg,image/webp,image/tiff,image/gif,image/svg+xml"
      hidden
      aria-label="Choose a picture"
      @change="take(input?.files?.[0])"
    />

    <button v-if="!file" class="drop" @click="input?.click()">
      <b>Drop a picture here, or choose one</b>
      <span class="soft"
        >A scan, a photograph of a mark, lettering. No cutting out needed. PNG, JPEG, WebP, TIFF or GIF; shapes (SVG),
        layers and reels go on to the Intake.</span
      >
    </button>

    <template v-else>
      <div class="three">
        <figure>
          <figcaption>
            Picture <span class="soft">{{ file.name }}</span>
          </figcaption>
          <div class="well"><img v-if="tip" :src="tip.picture" alt="The picture as it came" /></div>
          <p v-if="tip && tip.pictures > 1" class="soft small several">
            This file holds {{ tip.pictures }} pictures; the tip is made of the first.
            <button class="plain" @click="toIntake(file!)">Take all as a reel, at the Intake</button>
          </p>
          <button class="plain" @click="input?.click()">Choose another</button>
        </figure>
        <figure>
          <figcaption>
            Tip <span v-if="tip" class="soft">{{ tip.width }} × {{ tip.height }} px</span>
          </figcaption>
          <div class="well"><img v-if="tip" :src="tip.tip" alt="The tip" data-test="tip" /></div>
          <p v-if="tip" class="figures">
            <span :class="tip.solid ? 'solid' : 'changed'">{{
              tip.solid ? '● paints solid' : tip.solid_share > 0 ? 'hardly paints solid' : 'cannot paint solid'
            }}</span>
            <span>greatest cover {{ percent(tip.greatest_cover) }}</span>
            <span>{{ percent(tip.solid_share) }} of the mark solid</span>
            <span>mean {{ percent(tip.mean_cover) }}</span>
          </p>
          <p v-if="tip && !tip.solid" class="soft small">
            Even pressed hard this tip lets the ground show through{{
              tip.solid_share > 0 ? ' nearly everywhere' : ''
            }}. For solid paint the source has to be fully black.
          </p>
        </figure>
        <figure class="wide">
          <figcaption>Stroke <span class="soft">as the new brush will paint it</span></figcaption>
          <Strip :src="tip?.strip" shape="peek" label="the new brush" data-test="stroke" />
        </figure>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>

      <form class="settings" @submit.prevent="save">
        <div class="column">
          <label class="line"
            ><el-switch v-model="invert" size="small" aria-label="Invert" />Invert: the light parts paint</label
          >
          <label class="line"
            ><el-switch v-model="crop" size="small" aria-label="Crop to the mark" />Crop to the mark, square</label
          >
          <label class="line"
            ><el-switch v-model="crisp" size="small" aria-label="Crisp" />Crisp: hard pixels only</label
          >
        </div>
        <div class="column">
          <div class="setting">
            <span>White from tone</span
            ><el-slider
              :model-value="white ?? tip?.white ?? 255"
              :min="128"
              :max="255"
              :show-tooltip="false"
              aria-label="White point"
              @input="white = $event as number"
            /><span>{{ white ?? tip?.white ?? 255 }}</span
            ><button v-if="white !== undefined" type="button" class="plain" @click="white = undefined">
              from the paper</button
            ><span v-else class="soft small">from the paper</span>
          </div>
          <div class="setting">
            <span>Size</span
            ><el-slider v-model="size" :min="4" :max="200" :show-tooltip="false" aria-label="Size" /><span
              >{{ size }} px</span
            >
          </div>
          <div class="setting">
            <span>Spacing</span
            ><el-slider v-model="spacing" :min="2" :max="200" :show-tooltip="false" aria-label="Spacing" /><span
              >{{ spacing }} %</span
            >
          </div>
        </div>
        <div class="column">
          <label>Name<el-input v-model="name" maxlength="100" name="name" /></label>
          <p class="soft small">Kept: the tip, size, spacing and its answer to pressure. Colour stays the artist's.</p>
          <el-button type="primary" native-type="submit" :disabled="!tip || !name.trim()" :loading="busy"
            >Save as a brush</el-button
          >
        </div>
      </form>
    </template>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 14px;
}
.drop {
  display: grid;
  gap: 8px;
  place-content: center;
  justify-items: center;
  width: 100%;
  height: 320px;
  font: inherit;
  color: var(--ink);
  border: 2px dashed var(--line-strong);
  border-radius: 12px;
  background: var(--card);
  cursor: pointer;
}
.drop b {
  font-size: 16px;
}
.drop:hover {
  border-color: var(--accent);
}
.three {
  display: grid;
  grid-template-columns: 220px 220px minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}
figure {
  margin: 0;
}
figcaption {
  font-weight: 700;
  margin-bottom: 6px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
figcaption .soft {
  font-weight: 400;
}
.well {
  height: 220px;
  display: grid;
  place-items: center;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 8px;
}
.well img {
  max-width: 202px;
  max-height: 202px;
  object-fit: contain;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  margin: 8px 0 4px;
}
.solid {
  color: var(--accent);
  font-weight: 700;
}
.settings {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr) 300px;
  gap: 28px;
  margin-top: 20px;
  padding-top: 16px;
  border-top: 1px solid var(--line);
  align-items: start;
}
.column {
  display: grid;
  gap: 10px;
}
.column p {
  margin: 0;
}
.setting {
  display: grid;
  grid-template-columns: 104px 1fr 44px 92px;
  gap: 12px;
  align-items: center;
}
.problem {
  margin: 14px 0 0;
  color: var(--madder);
  background: var(--madder-wash);
  padding: 9px 12px;
  border-radius: 7px;
}
</style>
