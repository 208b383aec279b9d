<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onMounted, onScopeDispose, ref } from 'vue'
import { api, asFile, of } from '../../../api/client'
import FormDialog from '../../../parts/FormDialog.vue'
import { useDeed } from '../../../parts/useDeed'
import { withValue } from '../settings'
import { onBench } from '../useBench'
import SquareOf from './SquareOf.vue'
import { useSquare } from './useSquare'

/** Chooses the picture that stands for the brush beside its strip: a square of a picture, or a symbol. */
const props = defineProps<{ painted?: Blob }>()
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const square = useSquare()
const symbols = ref<{ name: string; title: string }[]>([])
const symbol = ref<string>()
const colour = ref('#0f6b6b')
const picture = ref<{ file: Blob; url: string; shown: boolean }>()
const chooser = ref<HTMLInputElement>()

onMounted(() => {
  bench.toast.attempt(async () => (symbols.value = (await of(api.GET('/api/symbols'))).symbols))
  if (props.painted) bring(props.painted)
})

function forget() {
  if (picture.value) URL.revokeObjectURL(picture.value.url)
  picture.value = undefined
}
onScopeDispose(forget)
function bring(file?: Blob | null) {
  if (!file) return
  forget()
  symbol.value = undefined
  picture.value = { file, url: URL.createObjectURL(file), shown: true }
}
const chosen = () => {
  bring(chooser.value!.files?.[0])
  chooser.value!.value = ''
}
useEventListener(document, 'paste', (event: ClipboardEvent) => bring(event.clipboardData?.files[0]))
function choose(name: string) {
  forget()
  symbol.value = name
}
const symbolAt = (name: string, shown = colour.value) => `/api/symbols/${name}.png?colour=${shown.slice(1)}`

const here = bench.library.path()
async function kept() {
  if (symbol.value) {
    const body = { symbol: symbol.value as 'nib', colour: colour.value }
    return of(api.POST('/api/libraries/{library}/previews/symbol', { ...here, body }))
  }
  const { file, shown } = picture.value!
  const name = file instanceof File ? file.name : `${bench.document.value!.name}, painted`
  const query = { file: name, ...(shown ? square.shares.value : {}) }
  const params = { path: here.params.path, query }
  return of(api.POST('/api/libraries/{library}/previews', { params, ...asFile(file) }))
}
const ready = computed(() => !!symbol.value || !!picture.value)
const { busy, problem, go } = useDeed(async () => {
  const { sum } = await kept()
  bench.tune(withValue(bench.document.value!, ['about', 'picture'], `sha256:${sum}`), 'about.picture')
  emit('close')
})
</script>

<template>
  <FormDialog
    title="Preview picture"
    deed="Use picture"
    width="620px"
    :busy="busy"
    :ready="ready"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <div class="both">
      <div class="stage" @dragover.prevent @drop.prevent.stop="bring($event.dataTransfer?.files[0])">
        <SquareOf
          v-if="picture?.shown"
          :src="picture.url"
          :square="square"
          @unreadable="picture && (picture.shown = false)"
        />
        <p v-else-if="picture" class="soft">This browser can’t show the file; the largest centred square is used.</p>
        <img v-else-if="symbol" :src="symbolAt(symbol)" alt="The symbol as it will stand beside the strip" />
        <p v-else class="soft">Drop a picture here, paste one, or choose a symbol.</p>
      </div>
      <div class="choices">
        <el-button data-first @click="chooser!.click()">Choose a picture…</el-button>
        <input ref="chooser" type="file" hidden aria-label="Choose a picture" @change="chosen" />
        <p class="soft small">Or choose a symbol:</p>
        <div class="symbols" role="group" aria-label="Symbols">
          <button
            v-for="one in symbols"
            :key="one.name"
            type="button"
            :aria-pressed="symbol === one.name"
            :aria-label="one.title"
            :title="one.title"
            @click="choose(one.name)"
          >
            <img :src="symbolAt(one.name, '#22252b')" alt="" />
          </button>
        </div>
        <label class="line"
          >Colour of the symbol <input v-model.lazy="colour" type="color" :disabled="!symbol"
        /></label>
      </div>
    </div>
    <p class="soft small">Part of your draft until you save. The strip stays beside it.</p>
  </FormDialog>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: 282px 1fr;
  gap: 18px;
}
.stage {
  width: 282px;
  height: 282px;
  display: grid;
  place-items: center;
  text-align: center;
  border: 1px dashed var(--line-strong);
  border-radius: 7px;
}
.stage > p {
  padding: 0 24px;
}
.stage > img {
  width: 200px;
  background: #fff;
  border-radius: 7px;
}
.choices {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: start;
}
.symbols {
  display: grid;
  grid-template-columns: repeat(6, 40px);
  gap: 6px;
}
.symbols button {
  width: 40px;
  height: 40px;
  padding: 2px;
  background: #fff;
  border: 1px solid var(--line-strong);
  border-radius: 7px;
  cursor: pointer;
}
.symbols button[aria-pressed='true'] {
  outline: 2px solid var(--accent);
}
.symbols img {
  display: block;
  width: 100%;
}
</style>
