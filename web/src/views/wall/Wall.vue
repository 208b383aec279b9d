<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import ResetDialog from '../../parts/ResetDialog.vue'
import Strip from '../../parts/Strip.vue'
import TagMark from '../../parts/TagMark.vue'
import type { Preset } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useTray } from '../../stores/tray'
import { found } from './found'
import Peek from './Peek.vue'

const library = useLibrary()
const session = useSession()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const height = useLocalStorage('fobrel.strip', 62)
const resetting = ref(false)
const list = ref<HTMLElement>()

const tag = computed(() => (route.query.tag ? Number(route.query.tag) : undefined))
const set = computed(() => library.sets.find(({ id }) => id === Number(route.query.set)))
const words = computed(() => String(route.query.search ?? ''))
const onlyChanged = computed(() => route.query.changed === 'yes')
const presets = computed(() => found(library.presets, { words: words.value, tag: tag.value, set: set.value?.preset_ids, changed: onlyChanged.value }))
const peeked = ref<number>()
const peek = computed(() => presets.value.find(({ id }) => id === peeked.value) ?? presets.value[0])

const put = (query: Record<string, string | number | undefined>) => router.replace({ query: { ...route.query, ...query } })

function walk(step: number) {
  const at = presets.value.findIndex(({ id }) => id === peek.value?.id)
  const next = presets.value[Math.min(Math.max(at + step, 0), presets.value.length - 1)]
  if (next) focus(next)
}

function focus(preset: Preset) {
  peeked.value = preset.id
  nextTick(() => {
    const row = list.value?.querySelector<HTMLElement>(`[data-id="${preset.id}"]`)
    row?.focus({ preventScroll: true })
    row?.scrollIntoView({ block: 'nearest' })
  })
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const at = event.target as HTMLElement
  if (at.closest('input, textarea, [role=dialog], .el-select, .el-dropdown')) return
  if (event.key === 'ArrowDown') { event.preventDefault(); walk(1) }
  if (event.key === 'ArrowUp') { event.preventDefault(); walk(-1) }
  if (event.key === ' ' && peek.value && !at.closest('button, a')) { event.preventDefault(); tray.toggle(peek.value.id) }
  if (event.key === 'Enter' && peek.value && at.closest('.row, body') && !at.closest('button, a')) open(peek.value)
})

const open = (preset: Preset) => router.push({ name: 'bench', params: { id: preset.id } })
watch(words, () => list.value?.scrollTo({ top: 0 }))
</script>

<template>
  <div class="wall">
    <aside aria-label="Filters">
      <h3>Tags</h3>
      <button v-for="one in library.tags" :key="one.id" class="facet" :class="{ on: one.id === tag }" :aria-pressed="one.id === tag" @click="put({ tag: one.id === tag ? undefined : one.id })">
        <TagMark :tag="one" /><span>{{ one.count }}</span>
      </button>
      <p v-if="!library.tags.length" class="soft small">No tags yet. Pick brushes, then choose Tag in the tray.</p>
      <h3>Sets</h3>
      <button v-for="one in library.sets" :key="one.id" class="facet" :class="{ on: one.id === set?.id }" :aria-pressed="one.id === set?.id" @click="put({ set: one.id === set?.id ? undefined : one.id })">
        <span>{{ one.name }}</span><span>{{ one.preset_ids.length }}</span>
      </button>
      <p v-if="!library.sets.length" class="soft small">No sets yet. Pick brushes, then choose Add to set.</p>
      <h3>State</h3>
      <button class="facet" :class="{ on: onlyChanged }" :aria-pressed="onlyChanged" @click="put({ changed: onlyChanged ? undefined : 'yes' })">
        <span>Changed since received</span><span>{{ library.changed.length }}</span>
      </button>
    </aside>

    <section>
      <div class="bar line">
        <b>{{ presets.length }} {{ presets.length === 1 ? 'brush' : 'brushes' }}</b>
        <span class="soft">{{ set ? `in the order of “${set.name}”` : 'by name' }}</span>
        <button v-if="tag || set || words || onlyChanged" class="plain" @click="router.replace({ query: {} })">show all</button>
        <span class="grow" />
        <button v-if="session.mayEdit && library.changed.length" class="plain" @click="resetting = true">Take changes back…</button>
        <button class="plain" :disabled="!presets.length" @click="tray.add(presets.map(({ id }) => id))">Pick these</button>
        <label class="line soft">Height<el-slider v-model="height" :min="36" :max="110" :show-tooltip="false" aria-label="Height of the strips" /></label>
      </div>
      <div ref="list" class="list" role="listbox" aria-label="Brushes" aria-multiselectable="true">
        <div
          v-for="preset in presets" :key="preset.id" class="row" :class="{ on: preset.id === peek?.id, picked: tray.has(preset.id) }" role="option"
          :aria-selected="tray.has(preset.id)" :data-id="preset.id" :tabindex="preset.id === peek?.id ? 0 : -1" @click="focus(preset)" @dblclick="open(preset)"
        >
          <Strip :fingerprint="preset.fingerprint" :label="preset.name" :style="{ width: `${(height * 700) / 120}px` }" />
          <div class="words">
            <div class="line"><b>{{ preset.name }}</b><span class="soft">{{ preset.size }} px</span></div>
            <div v-if="preset.draft || preset.altered" class="line">
              <span v-if="preset.draft" class="changed">unsaved change</span><span v-if="preset.altered" class="changed">edition {{ preset.edition }}</span>
            </div>
            <div class="tags soft"><TagMark v-for="id in preset.tag_ids" :key="id" :tag="library.tagById.get(id) ?? { name: '…', colour: 'slate', shape: 'square' }" /></div>
            <div class="soft small">{{ preset.traits.join(' · ') }}</div>
          </div>
          <button class="pick" :class="{ on: tray.has(preset.id) }" :aria-pressed="tray.has(preset.id)" :aria-label="tray.has(preset.id) ? `Put ${preset.name} back` : `Pick ${preset.name}`" @click.stop="tray.toggle(preset.id)">
            {{ tray.has(preset.id) ? '✓' : '+' }}
          </button>
        </div>
        <div v-if="!presets.length && library.presets.length" class="empty">
          <p>No brush here has that name, tag and set together.</p>
          <el-button @click="router.replace({ query: {} })">Show all brushes</el-button>
        </div>
        <div v-if="!library.presets.length" class="empty">
          <p>This library has no brushes yet. Drop a picture anywhere to make one, or a package to take one in.</p>
          <el-button type="primary" @click="router.push({ name: 'tip-maker' })">Make a brush</el-button>
        </div>
      </div>
    </section>
    <Peek v-if="peek" :key="peek.id" :preset="peek" @open="open(peek)" />
    <ResetDialog v-if="resetting" @close="resetting = false" />
  </div>
</template>

<style scoped>
.wall { display: grid; grid-template-columns: 172px minmax(0, 1fr) 300px; height: 100%; }
aside { padding: 4px 8px 16px; border-right: 1px solid var(--line); overflow: auto; }
aside h3 { margin: 14px 8px 4px; }
aside p { margin: 4px 8px; }
.facet { display: flex; justify-content: space-between; gap: 6px; width: 100%; font: inherit; text-align: left; color: var(--soft); background: none; border: 0; border-radius: 5px; padding: 3px 8px; cursor: pointer; }
.facet:hover { background: var(--card); }
.facet.on { color: var(--accent); font-weight: 700; background: var(--accent-wash); }
section { display: flex; flex-direction: column; min-height: 0; }
.bar { padding: 9px 16px; white-space: nowrap; }
.bar .el-slider { width: 80px; }
.list { flex: 1; overflow: auto; padding: 0 10px 20px; }
.row { display: flex; align-items: center; gap: 14px; padding: 5px 6px; border-radius: 8px; cursor: default; }
.row:hover { background: var(--card); }
.row.on { background: var(--accent-wash); }
.row .strip { flex: 0 1 auto; min-width: 120px; max-width: calc(100% - 230px); }
.words { flex: 1; min-width: 0; }
.words b { font-size: 14px; }
.tags { display: flex; flex-wrap: wrap; gap: 0 10px; }
.pick { flex: none; width: 26px; height: 26px; border-radius: 7px; border: 1px solid var(--line-strong); background: var(--card); color: var(--soft); font: inherit; font-weight: 700; cursor: pointer; }
.pick.on { background: var(--accent); border-color: var(--accent); color: var(--on-accent); }
</style>
