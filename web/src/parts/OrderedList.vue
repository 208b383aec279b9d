<script setup lang="ts">
import { ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useLibrary } from '../stores/library'
import Strip from './Strip.vue'

/** Brushes in an order made by hand: dragged, or moved with the arrows beside them; where sections are given, under their headings. */
const props = defineProps<{ ids: number[]; fixed?: boolean; empty: string; sections?: Record<string, string>; narrow?: boolean; splits?: boolean }>()
const emit = defineEmits<{ change: [ids: number[], sections?: Record<string, string>]; split: [at: number] }>()
const library = useLibrary()
const order = ref<number[]>([])
watch(() => props.ids, (ids) => { order.value = [...ids]; library.need(ids) }, { immediate: true })
watch(() => library.stamp, () => library.need(props.ids))

const section = (id: number) => props.sections?.[id] ?? ''
const heads = (index: number) => !!props.sections && section(order.value[index]!) !== (index ? section(order.value[index - 1]!) : '')

/** A brush that was moved stands in the section of the one above it. */
function give(moved?: number) {
  if (!props.sections) return emit('change', [...order.value])
  const sections = { ...props.sections }
  const at = moved === undefined ? -1 : order.value.indexOf(moved)
  if (at > 0) sections[moved!] = section(order.value[at - 1]!)
  if (at === 0) delete sections[moved!]
  emit('change', [...order.value], Object.fromEntries(Object.entries(sections).filter(([, name]) => name)))
}
function move(index: number, step: number) {
  const [one] = order.value.splice(index, 1)
  order.value.splice(index + step, 0, one!)
  give(one!)
}
function takeOut(index: number) {
  order.value.splice(index, 1)
  give()
}
const naming = ref<number>()
const word = ref('')
function ask(id: number) { naming.value = id; word.value = section(id) }
/** From this brush on, to where the section it stood in ends. */
function name() {
  const from = order.value.indexOf(naming.value!)
  const was = section(naming.value!)
  const sections = { ...props.sections }
  for (let at = from; at < order.value.length && section(order.value[at]!) === was; at++) sections[order.value[at]!] = word.value.trim()
  naming.value = undefined
  emit('change', [...order.value], Object.fromEntries(Object.entries(sections).filter(([, one]) => one)))
}
</script>

<template>
  <VueDraggable v-model="order" tag="ol" :class="{ narrow }" :disabled="fixed" :animation="120" handle=".grip, .strip" @end="give(order[$event.newIndex ?? -1])">
    <li v-for="(id, index) in order" :key="id">
      <h3 v-if="heads(index)">{{ section(id) || 'no section' }}</h3>
      <form v-if="naming === id" class="line" @submit.prevent="name"><el-input v-model="word" size="small" placeholder="Name of the section; empty ends it" aria-label="Name of the section" maxlength="60" autofocus /><el-button size="small" native-type="submit">From here on</el-button><button type="button" class="plain" @click="naming = undefined">no</button></form>
      <div class="item">
        <span v-if="!fixed" class="grip soft" aria-hidden="true">⠿</span>
        <span class="soft place">{{ index + 1 }}</span>
        <Strip :fingerprint="library.byId.get(id)?.fingerprint" :label="library.byId.get(id)?.name ?? ''" lazy />
        <b>{{ library.byId.get(id)?.name }}</b>
        <span class="soft">{{ library.byId.get(id)?.size }} px</span>
        <span class="grow" />
        <template v-if="!fixed">
          <button v-if="sections" class="plain small" :aria-label="`A section from ${library.byId.get(id)?.name} on`" @click="ask(id)">section</button>
          <button v-if="splits" class="plain small" :disabled="index === 0" :aria-label="`Split before ${library.byId.get(id)?.name}`" @click="emit('split', index)">split</button>
          <button class="plain" :disabled="index === 0" :aria-label="`Move ${library.byId.get(id)?.name} up`" @click="move(index, -1)">↑</button>
          <button class="plain" :disabled="index === order.length - 1" :aria-label="`Move ${library.byId.get(id)?.name} down`" @click="move(index, 1)">↓</button>
          <button class="plain" :aria-label="`Take ${library.byId.get(id)?.name} out`" @click="takeOut(index)">✕</button>
        </template>
      </div>
    </li>
  </VueDraggable>
  <p v-if="!order.length" class="empty">{{ empty }}</p>
</template>

<style scoped>
ol { list-style: none; margin: 0; padding: 0; }
li { content-visibility: auto; contain-intrinsic-size: auto 54px; }
.item { display: flex; align-items: center; gap: 10px; padding: 4px 8px; border-radius: 7px; white-space: nowrap; }
.item:hover { background: var(--card); }
.item b { overflow: hidden; text-overflow: ellipsis; }
h3 { margin: 10px 8px 2px; color: var(--accent); }
.grip { cursor: grab; }
.place { flex: none; width: 26px; text-align: right; }
.item .grow { flex: 1; }
.item b { flex: 0 1 auto; }
.strip { width: 230px; flex: none; }
.narrow .strip { width: 120px; }
/* Two lists side by side: what can be done stands below the name, so that the name can be read. */
ol { container-type: inline-size; }
@container (width < 500px) {
  .item { flex-wrap: wrap; row-gap: 0; }
  .item b { flex: 1 1 calc(100% - 270px); }
  .item .grow { flex: 1 0 100%; }
  .item .grow + * { margin-left: auto; }
}
</style>
