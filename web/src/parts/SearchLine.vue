<script setup lang="ts">
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type Preset } from '../api/client'
import type { components } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { intoList } from './intoList'
import { useNewest } from './newest'
import Strip from './Strip.vue'

/** The field that finds brushes, with what it found so far below it. */
const route = useRoute()
const router = useRouter()
const library = useLibrary()
const session = useSession()
const text = ref('')
const box = ref<HTMLInputElement>()
const open = ref(false)
/** Enter was pressed before the answer came, and waits for it. */
const entering = ref(false)
// What is being typed is not overwritten by its own answer, but by a step back, or by a click beside.
let sent: string | undefined
watch(
  () => String(route.query.search ?? ''),
  (words) => {
    if (words !== sent) text.value = words
    sent = words
  },
  { immediate: true },
)
// All that is typed in one go is one step of the history.
let begun = false

type Preview = components['schemas']['SearchPreview']
/** What is shown belongs to the line as it is now. */
const answered = shallowRef<{ line: string; preview: Preview }>()
const { want } = useNewest(
  (line: string) => {
    const asked = { params: { ...library.path().params, query: { q: line } } }
    return of(api.GET('/api/libraries/{library}/search', asked))
  },
  (preview, line) => {
    library.know(preview.presets)
    answered.value = { line, preview }
  },
  // The list says what is wrong.
  () => entering.value && showAll(),
)
watch([text, open], () => want(open.value && text.value.trim() ? text.value : undefined))
const preview = computed(() => (open.value && answered.value?.line === text.value ? answered.value.preview : undefined))

/** What the arrow keys walk through: lines that may be meant, or else the brushes and then all of them. */
type Option = { line: string } | { preset: Preset } | { all: number }
const options = computed<Option[]>(() => {
  if (!preview.value) return []
  const { lines, presets, total } = preview.value
  if (!presets.length) return lines.map((line) => ({ line }))
  return [...presets.map((preset) => ({ preset })), { all: total }]
})
/** Steps that were taken before the answer came hold for it. */
const at = ref(-1)
const pending = computed(() => open.value && text.value.trim() !== '' && !preview.value)
watch(text, () => {
  at.value = -1
  entering.value = false
})
watch(options, () => {
  at.value = Math.min(at.value, options.value.length - 1)
  if (entering.value) enter()
})
const idOf = (index: number) => `found-${index}`

// A view that is on its way is not given up for what is typed meanwhile.
const going = ref(false)
onScopeDispose(router.beforeEach((to, from) => void (going.value = to.name !== from.name)))
onScopeDispose(router.afterEach(() => void (going.value = false)))

let timer: ReturnType<typeof setTimeout>
/** Shows all that the line finds. */
function find() {
  clearTimeout(timer)
  const words = text.value.trim()
  if (route.name === 'brushes' && words === String(route.query.search ?? '')) return
  sent = words
  router[begun ? 'replace' : 'push']({
    name: 'brushes',
    params: { library: session.libraryId },
    query: { ...(route.name === 'brushes' ? route.query : {}), search: words || undefined },
  })
  begun = true
}
function typed() {
  open.value = true
  clearTimeout(timer)
  // The list follows where it is on the screen; elsewhere the work is left only for what was chosen. A term whose
  // value is still to come would only be told to be unclear.
  if (route.name === 'brushes' && !/:\s*$/.test(text.value)) timer = setTimeout(() => going.value || find(), 130)
}
function showAll() {
  open.value = false
  entering.value = false
  find()
  begun = false
}
function take(option: Option) {
  if ('line' in option) {
    takeLine(option.line)
  } else if ('preset' in option) {
    clearTimeout(timer)
    open.value = false
    begun = false
    // The next keys are for the Bench.
    box.value?.blur()
    router.push({ name: 'bench', params: { library: session.libraryId, id: option.preset.id } })
  } else {
    showAll()
    intoList.value++
  }
}
/** Goes on with another line; one that ends with a term waits for its value. */
function takeLine(line: string) {
  text.value = line
  box.value?.focus()
  if (!/:\s*$/.test(line)) showAll()
}
function enter() {
  entering.value = pending.value && !/:/.test(text.value)
  if (entering.value) return
  const chosen = options.value[at.value]
  if (chosen) return take(chosen)
  // Terms are for the list. Words open the first brush, if the answer to them is there.
  const first = /:/.test(text.value) ? undefined : options.value[0]
  if (first && 'preset' in first) take(first)
  else showAll()
}
function key(event: KeyboardEvent) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step && options.value.length) {
    event.preventDefault()
    const count = options.value.length + 1
    at.value = ((at.value + 1 + step + count) % count) - 1
  } else if (step && pending.value) {
    event.preventDefault()
    at.value = Math.max(-1, at.value + step)
  } else if (event.key === 'ArrowDown' && route.name === 'brushes' && !open.value) {
    event.preventDefault()
    find()
    intoList.value++
  }
  if (event.key === 'Enter') {
    event.preventDefault()
    enter()
  }
  if (event.key === 'Escape') {
    if (open.value) open.value = false
    else box.value?.blur()
  }
}
const close = (event: FocusEvent) => {
  if ((event.relatedTarget as Element | null)?.closest('.line-box')) return
  begun = false
  open.value = false
  entering.value = false
}
const KINDS = { category: 'Category', size: 'Size', tag: 'Tag' }
const counted = (count: number) => count.toLocaleString('en-GB')
defineExpose({ focus: () => box.value?.focus() })
</script>

<template>
  <div class="line-box" @focusout="close">
    <input
      ref="box"
      v-model="text"
      type="search"
      class="search"
      placeholder="Find a brush: words, a size, tag: …"
      aria-label="Find a brush"
      role="combobox"
      :aria-expanded="options.length > 0"
      aria-controls="search-found"
      :aria-activedescendant="at >= 0 ? idOf(at) : undefined"
      autocomplete="off"
      maxlength="500"
      @input="typed"
      @keydown="key"
      @focus="open = text.length > 0"
    />
    <div v-if="preview" class="panel" data-test="search-panel" @mousedown.prevent>
      <div v-if="preview.chips.length" class="chips">
        <button v-for="chip in preview.chips" :key="chip.line" type="button" @click="takeLine(chip.line)">
          {{ KINDS[chip.kind] }} <b>{{ chip.value }}</b> <span class="soft">({{ counted(chip.count) }})</span>
        </button>
      </div>
      <p v-if="preview.tolerant && preview.total" class="soft small">No exact match. Similar names:</p>
      <p v-if="text.trim() && !preview.presets.length && !preview.problem" class="soft small">
        No brushes found<template v-if="preview.lines.length">. Did you mean:</template>
      </p>
      <div id="search-found" role="listbox" aria-label="Found">
        <div v-if="preview.presets.length" class="strips" role="presentation">
          <div
            v-for="(preset, index) in preview.presets"
            :id="idOf(index)"
            :key="preset.id"
            role="option"
            class="found"
            :aria-selected="index === at"
            @click="take({ preset })"
          >
            <Strip :fingerprint="preset.fingerprint" :label="preset.name" :wide="215" />
            <span class="name">
              <b>{{ preset.name }}</b> <span class="soft">{{ preset.size }} px</span>
            </span>
          </div>
        </div>
        <template v-for="(option, index) in options" :key="idOf(index)">
          <div
            v-if="!('preset' in option)"
            :id="idOf(index)"
            role="option"
            :class="'line' in option ? 'line' : 'all'"
            :aria-selected="index === at"
            @click="take(option)"
          >
            <template v-if="'line' in option">{{ option.line }}</template>
            <template v-else-if="option.all === 1">Show it in the list</template>
            <template v-else>All {{ counted(option.all) }} results</template>
          </div>
        </template>
      </div>
      <p v-if="preview.problem && !preview.lines.length" class="soft small">{{ preview.problem }}</p>
      <p v-if="preview.presets.length" class="soft small">Enter opens the first · ↓ moves · Esc closes</p>
    </div>
  </div>
</template>

<style scoped>
.line-box {
  position: relative;
  flex: 1;
  min-width: 120px;
}
.search {
  width: 100%;
  font: inherit;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 9px;
  padding: 7px 12px;
}
.search::placeholder {
  color: var(--soft);
}
.panel {
  position: absolute;
  top: 40px;
  left: 0;
  z-index: 60;
  width: min(700px, 100%);
  min-width: min(340px, calc(100vw - 24px));
  max-height: calc(100vh - 60px);
  overflow-y: auto;
  padding: 12px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 9px;
  box-shadow: 0 8px 24px rgb(0 0 0 / 18%);
}
.panel p {
  margin: 8px 0 0;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 10px;
}
.chips button {
  font: inherit;
  color: var(--ink);
  background: none;
  border: 1px solid var(--line);
  border-radius: 99px;
  padding: 2px 11px;
  cursor: pointer;
}
.chips b {
  color: var(--accent);
}
.chips button:hover {
  background: var(--accent-wash);
}
.strips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 8px;
}
.found {
  padding: 4px;
  border-radius: 7px;
  cursor: pointer;
}
.name {
  display: block;
  margin-top: 3px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line,
.all {
  padding: 5px 9px;
  border-radius: 6px;
  cursor: pointer;
}
.all {
  margin-top: 6px;
  color: var(--accent);
  font-weight: 600;
}
[role='option'][aria-selected='true'],
[role='option']:hover {
  background: var(--accent-wash);
}
</style>
