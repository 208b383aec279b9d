<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { intoList } from './intoList'
import { useNewest } from './newest'

/** The one line that finds brushes: words, and terms such as `tag: lineart`. */
const route = useRoute()
const router = useRouter()
const library = useLibrary()
const session = useSession()
const text = ref('')
const box = ref<HTMLInputElement>()
const open = ref(false)
const at = ref(-1)
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

/** What may be meant, as the server knows it; what is shown belongs to the line as it is now. */
const proposed = shallowRef<{ line: string; lines: string[] }>()
const { want } = useNewest(
  async (line: string) => {
    const asked = { params: { ...library.path().params, query: { q: line } } }
    return (await of(api.GET('/api/libraries/{library}/wall/suggestions', asked))).lines
  },
  (lines, line) => void (proposed.value = { line, lines }),
)
watch([text, open], () => want(open.value && text.value.trim() ? text.value : undefined))
const list = computed(() => (open.value && proposed.value?.line === text.value ? proposed.value.lines : []))
let timer: ReturnType<typeof setTimeout>

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
  at.value = -1
  clearTimeout(timer)
  // A term whose value is still to come would only be told to be unclear.
  if (!/:\s*$/.test(text.value)) timer = setTimeout(find, 130)
}
function take(line: string) {
  text.value = line
  box.value?.focus()
  at.value = -1
  if (!/:\s*$/.test(line)) {
    open.value = false
    find()
  }
}
function findNow() {
  open.value = false
  find()
  begun = false
}
function key(event: KeyboardEvent) {
  // Below the suggestions, or where there are none, lies the list of what was found.
  if (event.key === 'ArrowDown' && route.name === 'brushes' && at.value === list.value.length - 1) {
    event.preventDefault()
    open.value = false
    find()
    intoList.value++
  } else if (event.key === 'ArrowDown' && list.value.length) {
    event.preventDefault()
    at.value = (at.value + 1) % list.value.length
  }
  if (event.key === 'ArrowUp' && list.value.length) {
    event.preventDefault()
    at.value = (at.value - 1 + list.value.length) % list.value.length
  }
  if (event.key === 'Enter') {
    event.preventDefault()
    const suggested = list.value[at.value]
    if (suggested === undefined) findNow()
    else take(suggested)
  }
  if (event.key === 'Escape') {
    if (open.value) open.value = false
    else box.value?.blur()
  }
}
const close = () => {
  begun = false
  setTimeout(() => (open.value = false), 150)
}
defineExpose({ focus: () => box.value?.focus() })
</script>

<template>
  <div class="line-box">
    <input
      ref="box"
      v-model="text"
      type="search"
      class="search"
      placeholder="Find a brush: words, tag: …, size: under 60"
      aria-label="Find a brush"
      role="combobox"
      :aria-expanded="list.length > 0"
      aria-controls="search-suggestions"
      autocomplete="off"
      maxlength="500"
      @input="typed"
      @keydown="key"
      @blur="close"
      @focus="open = text.length > 0"
    />
    <ul v-if="list.length" id="search-suggestions" role="listbox">
      <li
        v-for="(one, index) in list"
        :key="one"
        role="option"
        :aria-selected="index === at"
        :class="{ at: index === at }"
        @mousedown.prevent="take(one)"
      >
        {{ one }}
      </li>
    </ul>
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
ul {
  position: absolute;
  top: 38px;
  left: 0;
  right: 0;
  z-index: 60;
  margin: 0;
  padding: 4px;
  list-style: none;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 9px;
  box-shadow: 0 8px 24px rgb(0 0 0 / 18%);
}
li {
  padding: 5px 9px;
  border-radius: 6px;
  cursor: pointer;
}
li.at,
li:hover {
  background: var(--accent-wash);
}
</style>
