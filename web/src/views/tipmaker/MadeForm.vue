<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch } from 'vue'
import SliderLine from './SliderLine.vue'
import { onTipWork, type Making, type Words } from './useTipWork'

/** A text or a figure with its parameters, which can be changed as long as the piece of work is there. */
type Shape = { shape: string; cut?: boolean; [name: string]: unknown }
type Parameter = Making['common'][number]
const work = onTipWork()
const { sheet, making, page } = work
const words = ref<Words>({})
let sent = ''
watch(
  () => sheet.value?.id,
  () => {
    // What was changed while this was drawn is drawn next.
    if (sent && JSON.stringify(words.value) !== sent) return
    words.value = JSON.parse(JSON.stringify(sheet.value?.made ?? {})) as Words
    sent = ''
  },
  { immediate: true },
)
const text = computed(() => words.value.text)
const shapes = computed(() => (words.value.figure ?? []) as Shape[])
const at = ref(0)
const shape = computed(() => shapes.value[Math.min(at.value, shapes.value.length - 1)])
const parameters = computed<Parameter[]>(() => [
  ...(making.value?.shapes.find(({ name }) => name === shape.value?.shape)?.parameters ?? []),
  ...(making.value?.common ?? []),
])
const font = computed(() => making.value?.fonts.find(({ name }) => name === (text.value?.font ?? 'Caveat')))

const change = (next: Words) => (words.value = next)
const write = (parts: object) => change({ text: { ...text.value!, ...parts } })
function shaped(parts: object) {
  const next = shapes.value.map((one) => (one === shape.value ? { ...one, ...parts } : one))
  change({ figure: next })
}
function add() {
  const next = [...shapes.value, { shape: 'ring', size: 0.4, cut: true } as Shape]
  at.value = next.length - 1
  change({ figure: next })
}
function drop() {
  change({ figure: shapes.value.filter((one) => one !== shape.value) })
  at.value = 0
}
// What is typed is drawn a moment later, and is no drawing of its own at every letter.
function send() {
  const now = JSON.stringify(words.value)
  if (now === sent || now === JSON.stringify(sheet.value?.made ?? {})) return
  if (!words.value.figure && !words.value.text?.text.trim()) return
  sent = now
  void work.make(words.value, page.value)
}
watchDebounced(words, send, { debounce: 250 })
work.flushes.add(send)
onScopeDispose(() => work.flushes.delete(send))

/** Several tapers of one kind: widest in the middle, towards one end, one side straight. */
const CATEGORY = [{ widest: 0.5 }, { widest: 0.15 }, { widest: 0.5, straight: 1 }]
async function category() {
  const base = shape.value!
  for (const [index, step] of CATEGORY.entries()) {
    const figure = [{ ...base, ...step }] as Words['figure']
    await work.make({ figure }, index ? work.work.value!.sheets.length : page.value)
  }
  work.setFrames(work.work.value!.sheets.map((_, index) => ({ page: index, area: {} })))
}
</script>

<template>
  <section class="made" aria-label="What is drawn">
    <template v-if="text">
      <el-input
        :model-value="text.text"
        aria-label="Text"
        maxlength="120"
        @update:model-value="write({ text: $event })"
      />
      <div class="line">
        <div class="options">
          <button
            v-for="one in making?.fonts"
            :key="one.name"
            type="button"
            :aria-pressed="one.name === font?.name"
            @click="write({ font: one.name })"
          >
            {{ one.name }}
          </button>
          <button
            type="button"
            :aria-pressed="(text.weight ?? 400) > 550"
            @click="write({ weight: (text.weight ?? 400) > 550 ? 400 : 700 })"
          >
            Bold
          </button>
          <button
            v-for="sign in ['©', '®', '™', '№', '&']"
            :key="sign"
            type="button"
            @click="write({ text: `${text.text}${sign}` })"
          >
            {{ sign }}
          </button>
        </div>
      </div>
      <SliderLine
        word="Spacing"
        :value="text.spacing ?? 0"
        :least="-0.1"
        :most="1"
        percent
        @set="write({ spacing: $event })"
      />
      <SliderLine word="Curve" :value="text.curve ?? 0" :least="-1" :most="1" percent @set="write({ curve: $event })" />
    </template>
    <template v-else-if="shape">
      <div class="options">
        <button
          v-for="(one, index) in shapes"
          :key="index"
          type="button"
          :aria-pressed="one === shape"
          @click="at = index"
        >
          {{ index + 1 }} {{ one.shape }}{{ one.cut ? ', cut out' : '' }}
        </button>
        <button type="button" @click="add">+ Add shape</button>
        <button v-if="shapes.length > 1" type="button" @click="drop">Remove</button>
        <button v-if="shape.shape === 'taper' && shapes.length === 1" type="button" @click="category">
          Three variants
        </button>
      </div>
      <div class="line">
        <el-select
          :model-value="shape.shape"
          aria-label="Shape"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
          @update:model-value="shaped({ shape: $event })"
        >
          <el-option v-for="one in making?.shapes" :key="one.name" :value="one.name" :label="one.name" />
        </el-select>
        <el-checkbox :model-value="!!shape.cut" @update:model-value="shaped({ cut: !!$event })"
          >Cut from the shape before it</el-checkbox
        >
      </div>
      <div class="parameters">
        <SliderLine
          v-for="one in parameters"
          :key="one.name"
          :word="one.title"
          :value="Number(shape[one.name] ?? one.usual)"
          :least="one.least"
          :most="one.most"
          :step="one.whole ? 1 : undefined"
          :unit="one.unit === '%' ? undefined : one.unit"
          :percent="one.unit === '%'"
          @set="shaped({ [one.name]: $event })"
        />
      </div>
    </template>
  </section>
</template>

<style scoped>
.made {
  display: grid;
  gap: 8px;
  padding: 8px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--card);
}
.parameters {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 4px 22px;
}
</style>
