<script setup lang="ts">
import { computed, ref } from 'vue'
import Strip from '../../parts/Strip.vue'
import KeyButton from './KeyButton.vue'
import { atDesk, type Part, type PlanLine } from './useDesk'

/** A line of a start-up plan: a brush, or a set or bundle with what it brings. */
const props = defineProps<{ line: PlanLine; place: number }>()
const emit = defineEmits<{ shift: [by: number]; ask: [what: 'section' | 'replaces'] }>()
const { desk, fixed, lines, alter, change, revert, takeOut, setKey } = atDesk()
const open = ref(false)
const single = computed(() => props.line.thing.startsWith('brush/'))
const brush = computed(() => props.line.brushes[0])
const clash = (id: string) => desk.value?.clashes.find(({ ids }) => ids.includes(id))
const other = computed<Part>(() => (props.line.part === 'startup' ? 'shelf' : 'startup'))
const notes = computed(() => {
  const { line } = props
  const found: { text: string; kind: string }[] = []
  if (line.change)
    found.push({
      text: {
        added: desk.value?.template ? 'added here' : 'only here',
        moved: 'moved here',
        changed: 'changed here',
        'taken out': '',
      }[line.change],
      kind: 'own',
    })
  if (line.at_title) found.push({ text: line.at === null ? line.at_title : `stays at ${line.at_title}`, kind: 'soft' })
  if (line.newest)
    found.push({ text: single.value ? `version ${line.newest} is out` : `${line.newest} is out`, kind: 'changed' })
  if (line.replaces) found.push({ text: `in place of ${line.replaces}`, kind: 'own' })
  if (line.problem) found.push({ text: line.problem, kind: 'missing' })
  if (single.value && brush.value?.twice) found.push({ text: 'already listed above', kind: 'missing' })
  return found
})
const pin = () => alter(props.line.thing, { at: props.line.at === null ? props.line.pin : null })
const menu = (what: string) => {
  if (what === 'up' || what === 'down') return emit('shift', what === 'up' ? -1 : 1)
  if (what === 'part') return change(moved())
  if (what === 'pin') return pin()
  if (what === 'back') return revert(props.line.thing)
  if (what === 'free') return setFree()
  if (what === 'original') return alter(props.line.thing, { replaces: null })
  return emit('ask', what as 'section' | 'replaces')
}
const setFree = () => brush.value && setKey(brush.value.id, clash(brush.value.id)!.free)
function moved() {
  const rest = lines.value.filter(({ thing }) => thing !== props.line.thing)
  const line = { ...props.line, part: other.value }
  const at = rest.findIndex(({ part }) => part === 'shelf')
  return line.part === 'shelf' || at < 0 ? [...rest, line] : [...rest.slice(0, at), line, ...rest.slice(at)]
}
function walk(event: KeyboardEvent) {
  const by = { ArrowUp: -1, ArrowDown: 1 }[event.key]
  if (!by || !event.altKey || fixed.value) return
  event.preventDefault()
  emit('shift', by)
}
</script>

<template>
  <div class="row" @keydown="walk">
    <div class="item">
      <span class="grip soft" :class="{ off: fixed }">{{ place }}</span>
      <Strip v-if="single" :fingerprint="brush?.fingerprint" :label="line.title" :wide="130" lazy />
      <button v-else class="plain strip-box" :aria-expanded="open" @click="open = !open">
        {{ open ? '▾' : '▸' }} {{ line.brushes.length }} brushes
      </button>
      <div class="words">
        <b :title="line.title">{{ line.title }}</b>
        <span v-for="one in notes" :key="one.text" class="note" :class="one.kind">{{ one.text }}</span>
        <span v-if="line.from && !line.change" class="soft small source">from {{ line.from }}</span>
      </div>
      <span class="grow" />
      <KeyButton
        v-if="single && line.part === 'startup' && brush && !brush.twice"
        :name="line.title"
        :of="brush.key"
        :clash="clash(brush.id)?.why"
        :fixed="fixed"
        @key="setKey(brush.id, $event)"
      />
      <el-dropdown v-if="!fixed" trigger="click" @command="menu">
        <button class="plain" :aria-label="`More for ${line.title}`">▾</button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item v-if="single && brush && clash(brush.id)?.free" command="free"
              >Use free key {{ clash(brush.id)!.free }}</el-dropdown-item
            >
            <el-dropdown-item command="up" :disabled="place === 1">Move up (Alt+↑)</el-dropdown-item>
            <el-dropdown-item command="down">Move down (Alt+↓)</el-dropdown-item>
            <el-dropdown-item command="part">{{
              other === 'shelf' ? 'To the shelf' : 'To the startup'
            }}</el-dropdown-item>
            <el-dropdown-item command="section">Section</el-dropdown-item>
            <el-dropdown-item v-if="line.pin !== null" command="pin">{{
              line.at === null ? `Stay at ${single ? `version ${line.pin}` : line.at_title}` : 'Follow the newest'
            }}</el-dropdown-item>
            <template v-if="single && line.part === 'startup'">
              <el-dropdown-item v-if="line.replaces" command="original">Restore “{{ line.replaces }}”</el-dropdown-item>
              <el-dropdown-item v-else command="replaces">In place of a stock brush</el-dropdown-item>
            </template>
            <el-dropdown-item v-if="line.change" command="back">Reset to template</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
      <template v-if="!fixed">
        <button class="plain" :aria-label="`Remove ${line.title}`" @click="takeOut(line.thing)">✕</button>
      </template>
    </div>
    <ul v-if="open && !single">
      <li v-for="one in line.brushes" :key="one.id" :class="{ twice: one.twice }">
        <Strip :fingerprint="one.fingerprint" :label="one.name" :wide="100" lazy /><span>{{ one.name }}</span>
        <span v-if="one.twice" class="soft small">already listed above</span><span class="grow" />
        <KeyButton
          v-if="line.part === 'startup' && !one.twice"
          :name="one.name"
          :of="one.key"
          :clash="clash(one.id)?.why"
          :fixed="fixed"
          @key="setKey(one.id, $event)"
        />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.item,
li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 3px 6px;
  border-radius: 7px;
}
.item:hover {
  background: var(--card);
}
.grip {
  min-width: 18px;
  text-align: right;
  cursor: grab;
}
.off {
  cursor: default;
}
.strip {
  width: 120px;
  flex: none;
}
.strip-box {
  width: 120px;
  flex: none;
  text-align: left;
  padding: 6px 8px;
  border: 1px dashed var(--line-strong);
  border-radius: 6px;
}
.words {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 8px;
  min-width: 0;
}
.words b {
  overflow: hidden;
  text-overflow: ellipsis;
}
.note {
  font-size: 12px;
}
.note.own {
  color: var(--tag-violet);
}
ul {
  list-style: none;
  margin: 0 0 6px;
  padding-left: 32px;
}
li .strip {
  width: 90px;
}
.twice {
  opacity: 0.7;
}
@container (width < 300px) {
  .source {
    display: none;
  }
}
@container (width < 480px) {
  .strip,
  .strip-box {
    width: 84px;
  }
}
</style>
