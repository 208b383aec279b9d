<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { api, of } from '../../api/client'
import { enter } from '../../parts/enter'
import { useDragging } from '../../parts/useDragging'
import PlanRow from './PlanRow.vue'
import { atDesk, type Part, type PlanLine } from './useDesk'

/** What loads at start, or what is at hand: lines in an order made by hand, dragged here and between the two. */
const props = defineProps<{ part: Part; empty: string }>()
const { lines, library, fixed, change, alter, of_part } = atDesk()
const order = ref<PlanLine[]>([])
watch(lines, () => (order.value = of_part(props.part)), { immediate: true })
const list = ref<{ $el: HTMLElement }>()
const { begin, end } = useDragging(() => list.value?.$el)

/** What was dropped here stands in this part, once: where it was dropped. */
function give() {
  // What came from beside brings nothing with it yet.
  const came = new Set(order.value.filter(({ brushes }) => !brushes.length).map(({ thing }) => thing))
  const here = order.value
    .filter(
      ({ thing, brushes }, at, all) =>
        !came.has(thing) || !brushes.length || !all.some((one, i) => i !== at && one.thing === thing),
    )
    .map((one) => ({ ...one, part: props.part }))
  const things = new Set(here.map(({ thing }) => thing))
  const rest = lines.value.filter(({ part, thing }) => part !== props.part && !things.has(thing))
  void change(props.part === 'startup' ? [...here, ...rest] : [...rest, ...here])
}
function shift(index: number, by: number) {
  const to = index + by
  if (to < 0 || to >= order.value.length) return
  const moved = order.value.splice(index, 1)
  order.value.splice(to, 0, ...moved)
  give()
}
const heads = (index: number) => {
  const section = order.value[index]!.section ?? ''
  return section !== (index ? (order.value[index - 1]!.section ?? '') : '') ? section || 'no section' : ''
}
const asking = ref<{ thing: string; what: 'section' | 'replaces'; word: string }>()
const ask = (line: PlanLine, what: 'section' | 'replaces') =>
  (asking.value = { thing: line.thing, what, word: line[what] ?? '' })
const stock = ref<string[]>()
async function suggest(typed: string, show: (found: { value: string }[]) => void) {
  stock.value ??= (await of(api.GET('/api/libraries/{library}/stock-names', library.path()))).names
  const word = typed.toLowerCase()
  show(stock.value.filter((name) => name.toLowerCase().includes(word)).map((value) => ({ value })))
}
function answer() {
  if (!asking.value) return
  const { thing, what, word } = asking.value
  asking.value = undefined
  void alter(thing, { [what]: word.trim() || null })
}
const titles = computed(() => ({ section: 'Name of its section', replaces: 'Name of the stock brush' }))
</script>

<template>
  <VueDraggable
    ref="list"
    v-model="order"
    tag="div"
    class="list"
    :disabled="fixed"
    :animation="order.length > 60 ? 0 : 120"
    handle=".grip, .strip"
    group="plan"
    :force-fallback="true"
    :fallback-tolerance="4"
    :scroll="false"
    @start="begin"
    @end="end"
    @update="give"
    @add="give"
  >
    <div v-for="(line, index) in order" :key="line.thing" :data-thing="line.thing">
      <h3 v-if="heads(index)">{{ heads(index) }}</h3>
      <form
        v-if="asking?.thing === line.thing"
        :key="asking.what"
        v-suggests
        v-focus
        class="line"
        @submit.prevent="answer"
        @keydown.enter.capture="enter($event, answer)"
        @keydown.esc.stop="asking = undefined"
      >
        <el-autocomplete
          v-if="asking.what === 'replaces'"
          v-model="asking.word"
          size="small"
          :fetch-suggestions="suggest"
          :placeholder="titles.replaces"
          :aria-label="titles.replaces"
          maxlength="60"
          @select="answer"
        /><el-input
          v-else
          v-model="asking.word"
          size="small"
          :placeholder="titles[asking.what]"
          :aria-label="titles[asking.what]"
          maxlength="60"
        /><el-button size="small" native-type="submit">Set</el-button
        ><button type="button" class="plain" @click="asking = undefined">Cancel</button>
      </form>
      <PlanRow :line="line" :place="index + 1" @shift="shift(index, $event)" @ask="ask(line, $event)" />
    </div>
  </VueDraggable>
  <p v-if="!order.length" class="soft small empty-part">{{ empty }}</p>
</template>

<style scoped>
.list {
  container-type: inline-size;
  min-height: 40px;
}
h3 {
  margin: 8px 6px 2px;
  color: var(--accent);
}
.empty-part {
  padding: 0 8px;
}
</style>
