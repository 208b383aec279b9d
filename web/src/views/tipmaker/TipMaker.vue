<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useImport } from '../../stores/import'
import { moment } from '../../parts/when'
import Becomes from './Becomes.vue'
import Begin from './Begin.vue'
import MadeForm from './MadeForm.vue'
import MarkSettings from './MarkSettings.vue'
import PageView from './PageView.vue'
import ReelLine from './ReelLine.vue'
import StrokeChoice from './StrokeChoice.vue'
import { useLooked } from './useLooked'
import { provideTipWork } from './useTipWork'
import { useWish } from './useWish'

/** From any drawing to a mark: the page, the mark, its reel, the stroke, and what it becomes. */
const made = provideTipWork()
const { work, sheet, page, reading } = made
const { looked, problem, behind } = useLooked(made)
const { wish, set } = useWish(made, looked)
const incoming = useImport()
const input = ref<HTMLInputElement>()
const more = ref(false)
const naming = ref(false)
const name = ref('')

function choose(further: boolean) {
  more.value = further
  input.value?.click()
}
function chosen() {
  const files = [...(input.value?.files ?? [])]
  if (input.value) input.value.value = ''
  if (files.length) made.bring(files, more.value)
}
watch(
  () => incoming.pictures,
  (dropped) => {
    if (!dropped.length) return
    incoming.pictures = []
    // What is dropped on a page that is open is another piece of work, unless it was asked for as a further page.
    made.bring(dropped, dropped.length > 1 && !!work.value)
  },
  { immediate: true },
)
useEventListener(window, 'paste', (event: ClipboardEvent) => {
  const files = [...(event.clipboardData?.files ?? [])].filter(({ type }) => type.startsWith('image/'))
  if (!files.length) return
  event.preventDefault()
  made.bring(files, false)
})
function begin() {
  name.value = work.value!.name
  naming.value = true
}
async function rename() {
  if (!naming.value) return
  naming.value = false
  if (name.value.trim() && name.value.trim() !== work.value!.name) {
    await made.rename(name.value.trim())
    set({ name: work.value!.name })
  }
}
const said = computed(() => (sheet.value?.made ? 'made here' : `${sheet.value!.width} × ${sheet.value!.height} px`))
</script>

<template>
  <div class="maker">
    <header class="line">
      <template v-if="work">
        <el-input
          v-if="naming"
          v-model="name"
          v-focus
          class="name"
          size="small"
          maxlength="100"
          aria-label="Name of this work"
          @blur="rename"
          @keydown.enter="rename"
          @keydown.esc="naming = false"
        />
        <h1 v-else>
          <button class="title" title="Rename" @click="begin">{{ work.name }}</button>
        </h1>
        <span class="soft">{{ said }} · saved {{ moment(work.at) }}</span>
      </template>
      <template v-else
        ><h1>Tip maker</h1>
        <span class="soft">From any drawing to a tip: black paints, white doesn’t.</span></template
      >
      <span v-if="reading" class="soft" role="status">reading {{ reading > 1 ? `${reading} pictures` : '' }}…</span>
      <span class="grow" />
      <template v-if="work">
        <button
          class="plain step"
          :disabled="!work.room.back"
          aria-label="Undo"
          title="Undo (Ctrl Z)"
          @click="made.step('back')"
        >
          ↶
        </button>
        <button
          class="plain step"
          :disabled="!work.room.forth"
          aria-label="Redo"
          title="Redo (Ctrl Shift Z)"
          @click="made.step('forth')"
        >
          ↷
        </button>
        <button class="plain" @click="made.leave()">In progress</button>
        <button class="plain" @click="choose(true)">Add page…</button>
        <button class="plain" @click="choose(false)">Other picture…</button>
      </template>
    </header>
    <input
      ref="input"
      type="file"
      multiple
      accept="image/*,.ora,.svg,.tif,.tiff"
      hidden
      aria-label="Choose a picture"
      @change="chosen"
    />
    <Begin v-if="!work" @choose="choose(false)" />
    <div v-else class="desk">
      <div class="left">
        <div v-if="work.sheets.length > 1" class="pages" role="group" aria-label="Pages">
          <button
            v-for="(one, index) in work.sheets"
            :key="one.id"
            type="button"
            :aria-pressed="index === page"
            :aria-label="`Page ${index + 1}`"
            @click="page = index"
          >
            <img :src="`/api/works/${work.id}/pages/${one.id}.png`" alt="" />
          </button>
        </div>
        <MadeForm v-if="sheet?.made" />
        <PageView v-if="sheet" />
      </div>
      <div class="foot">
        <ReelLine :looked="looked" />
        <StrokeChoice :looked="looked" :wish="wish" @kind="set({ kind: $event })" />
      </div>
      <div class="right">
        <MarkSettings :looked="looked" :problem="problem" :behind="behind" />
        <Becomes :wish="wish" :ready="!!looked" @set="set" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.maker {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
}
header {
  padding: 8px 16px;
  min-height: 44px;
  white-space: nowrap;
}
.title {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: text;
}
.name {
  width: 240px;
}
.step {
  font-size: 17px;
  line-height: 1;
}
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 372px;
  grid-template-rows: minmax(0, 1fr) 226px;
  border-top: 1px solid var(--line);
  min-height: 0;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--line);
}
.left > .view {
  flex: 1;
}
.pages {
  display: flex;
  gap: 6px;
  padding: 6px 12px;
  overflow-x: auto;
  flex: none;
}
.pages button {
  flex: none;
  width: 44px;
  height: 44px;
  padding: 2px;
  background: #fff;
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  cursor: pointer;
}
.pages button[aria-pressed='true'] {
  outline: 2px solid var(--accent);
}
.pages img {
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.foot {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
  border-top: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.right {
  grid-area: 1 / 2 / 3 / 3;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
}
.right > :last-child {
  border-top: 1px solid var(--line);
}
</style>
