<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useLibrary } from '../stores/library'
import PartPicture from './PartPicture.vue'
import RowKeys from './RowKeys.vue'
import RowQuestion from './RowQuestion.vue'
import Strip from './Strip.vue'
import { useDragging } from './useDragging'

/**
 * Brushes in an order made by hand: dragged, or moved by the keys beside them; where sections are given, under
 * their headings.
 */
const props = defineProps<{
  ids: number[]
  fixed?: boolean
  empty: string
  sections?: Record<string, string>
  narrow?: boolean
  splits?: boolean
  group?: string
}>()
const emit = defineEmits<{ change: [ids: number[], sections?: Record<string, string>]; split: [at: number] }>()
const library = useLibrary()
const order = ref<number[]>([])
watch(
  () => props.ids,
  (ids) => {
    order.value = [...ids]
    library.need(ids)
  },
  { immediate: true },
)
watch(
  () => library.stamp,
  () => library.need(props.ids),
)

const list = ref<{ $el: HTMLElement }>()
const section = (id: number) => props.sections?.[id] ?? ''
const heads = (index: number) =>
  !!props.sections && section(order.value[index]!) !== (index ? section(order.value[index - 1]!) : '')
const called = (id: number) => library.byId.get(id)?.name ?? ''

/** A brush that was moved stands in the section of the one above it. */
function give(moved?: number) {
  if (!props.sections) return emit('change', [...order.value])
  const sections = { ...props.sections }
  const at = moved === undefined ? -1 : order.value.indexOf(moved)
  if (at > 0) sections[moved!] = section(order.value[at - 1]!)
  if (at === 0) delete sections[moved!]
  emit('change', [...order.value], Object.fromEntries(Object.entries(sections).filter(([, name]) => name)))
}
/** To a place, counted from 0; the cursor stays on the key it was moved with. */
async function move(id: number, to: number) {
  const from = order.value.indexOf(id)
  const place = Math.min(Math.max(to, 0), order.value.length - 1)
  if (from < 0 || from === place) return
  const key = (window.document.activeElement as HTMLElement | null)?.dataset.key
  order.value.splice(from, 1)
  order.value.splice(place, 0, id)
  give(id)
  await nextTick()
  const row = list.value?.$el.querySelector<HTMLElement>(`[data-brush="${id}"]`)
  row?.scrollIntoView({ block: 'nearest' })
  // At the end of a way the cursor waits on the place: one more press must not lead back.
  const next = [key, 'place']
    .map((one) => row?.querySelector<HTMLElement>(`[data-key="${one}"]:not(:disabled)`))
    .find(Boolean)
  next?.focus()
}
/** From where it stands by now, however quick the presses come. */
const shift = (id: number, by: number) => move(id, order.value.indexOf(id) + by)
function takeOut(index: number) {
  order.value.splice(index, 1)
  give()
}

// --- dragging, here and from a list to its neighbour ------------------------------------------
const { begin, end } = useDragging(() => list.value?.$el)
type Dropped = { newIndex?: number; oldIndex?: number; originalEvent?: MouseEvent }
/** What came from the list beside stands once here, where it was dropped. */
function came({ newIndex }: Dropped) {
  const id = order.value[newIndex ?? -1]
  if (id === undefined) return
  order.value = order.value.filter((one, index) => one !== id || index === newIndex)
  give(id)
}
/** What went to the list beside stays here too when it was dropped with Ctrl. */
function went({ originalEvent }: Dropped) {
  if (originalEvent?.ctrlKey || originalEvent?.metaKey) order.value = [...props.ids]
  else give()
}

// --- words asked for in a row: the name of a section, a place -----------------------------------
const asking = ref<{ id: number; what: 'section' | 'place' }>()
const ask = (id: number, what: 'section' | 'place') => (asking.value = { id, what })
/** From this brush on, to where the section it stood in ends. */
function name(id: number, word: string) {
  const from = order.value.indexOf(id)
  const was = section(id)
  const sections = { ...props.sections }
  for (let at = from; at < order.value.length && section(order.value[at]!) === was; at++)
    sections[order.value[at]!] = word
  asking.value = undefined
  emit('change', [...order.value], Object.fromEntries(Object.entries(sections).filter(([, one]) => one)))
}
function settle(id: number, to: number) {
  asking.value = undefined
  void move(id, to)
}
const last = computed(() => order.value.length - 1)
const steps: Record<string, (index: number) => number> = {
  ArrowUp: (index) => index - 1,
  ArrowDown: (index) => index + 1,
  Home: () => 0,
  End: () => last.value,
}
function walk(event: KeyboardEvent, id: number, index: number) {
  const step = steps[event.key]
  if (!step || !event.altKey) return
  event.preventDefault()
  void move(id, step(index))
}
</script>

<template>
  <VueDraggable
    ref="list"
    v-model="order"
    tag="ol"
    :class="{ narrow }"
    :disabled="fixed"
    :animation="order.length > 60 ? 0 : 120"
    handle=".grip, .strip"
    :group="group"
    :force-fallback="true"
    :fallback-tolerance="4"
    :scroll="false"
    @start="begin"
    @end="end"
    @update="give(order[$event.newIndex ?? -1])"
    @add="came"
    @remove="went"
  >
    <li v-for="(id, index) in order" :key="id" :data-brush="id">
      <h3 v-if="heads(index)">{{ section(id) || 'no section' }}</h3>
      <RowQuestion
        v-if="asking?.id === id"
        :what="asking.what"
        :word="section(id)"
        :place="index + 1"
        :last="order.length"
        @name="name(id, $event)"
        @settle="settle(id, $event)"
        @close="asking = undefined"
      />
      <div class="item" @keydown="fixed || walk($event, id, index)">
        <span v-if="!fixed" class="grip soft" aria-hidden="true">⠿</span>
        <button
          v-if="!fixed"
          class="plain place"
          data-key="place"
          :aria-label="`${called(id)} stands at place ${index + 1}; move it`"
          title="Move to another place"
          @click="ask(id, 'place')"
        >
          {{ index + 1 }}
        </button>
        <span v-else class="soft place">{{ index + 1 }}</span>
        <Strip :fingerprint="library.byId.get(id)?.fingerprint" :label="called(id)" lazy />
        <span v-if="library.byId.get(id)?.picture" class="preview"
          ><PartPicture
            :reference="`sha256:${library.byId.get(id)!.picture}`"
            :side="64"
            :label="`Picture of ${called(id)}`"
        /></span>
        <b :title="called(id)">{{ called(id) }}</b>
        <span class="soft">{{ library.byId.get(id)?.size }} px</span>
        <span class="grow" />
        <RowKeys
          v-if="!fixed"
          :name="called(id)"
          :first="index === 0"
          :last="index === last"
          :sections="!!sections"
          :splits="splits"
          @section="ask(id, 'section')"
          @split="emit('split', index)"
          @shift="shift(id, $event)"
          @out="takeOut(index)"
        />
      </div>
    </li>
  </VueDraggable>
  <p v-if="!order.length" class="empty">{{ empty }}</p>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0 0 24px;
  min-height: 60px;
  container-type: inline-size;
}
li {
  content-visibility: auto;
  contain-intrinsic-size: auto 54px;
}
h3 {
  margin: 10px 8px 2px;
  color: var(--accent);
}
.item {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 4px 8px;
  border-radius: 7px;
  white-space: nowrap;
}
.item:hover {
  background: var(--card);
}
.item b {
  flex: 0 1 auto;
  overflow: hidden;
  text-overflow: ellipsis;
}
.grip {
  cursor: grab;
}
.place {
  min-width: 26px;
  text-align: right;
  font-weight: 500;
}
.strip {
  width: clamp(230px, 34cqw, 460px);
  flex: none;
}
.preview {
  flex: none;
  width: 32px;
  height: 32px;
}
.narrow .strip {
  width: clamp(120px, 24cqw, 300px);
}
/* Two lists side by side: what can be done stands below the name, so that the name can be read. */
@container (width < 500px) {
  .item {
    flex-wrap: wrap;
    row-gap: 0;
  }
  .item b {
    flex: 1 1 calc(100% - 270px);
  }
  .item .grow {
    flex: 1 0 100%;
  }
  .item .grow + * {
    margin-left: auto;
  }
}
</style>
