<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import { offline } from '../../api/connection'
import BrushName from '../../parts/BrushName.vue'
import ProposeBrushes from '../../parts/ProposeBrushes.vue'
import ResetDialog from '../../parts/ResetDialog.vue'
import MergeDialog from './MergeDialog.vue'
import MethodChoice from './MethodChoice.vue'
import SaveAsDialog from './SaveAsDialog.vue'
import SaveVersionDialog from './SaveVersionDialog.vue'
import { onBench } from './useBench'
import type { Item } from './useCapture'

/** The head line of the Bench: which brush, how far it is changed, saving and going back. */
defineProps<{ draftsShown: boolean }>()
defineEmits<{ open: [sheet: 'history' | 'copy' | 'adjustments' | 'about']; toggleDrafts: [] }>()
const bench = onBench()
const { detail, document, dirty, busy, at, room, kept, overtaken } = bench
const name = ref<InstanceType<typeof BrushName>>()
const asking = ref<'version' | 'brush' | 'merge' | 'reset' | 'proposal'>()
const merging = ref<{ note: string; captured: Item[] }>({ note: '', captured: [] })

const next = computed(() => Math.max(...detail.value!.versions.map(({ number }) => number)) + 1)
const mayEdit = computed(() => bench.session.mayEdit)
const isLead = computed(() => bench.session.library?.role === 'lead')
const lockedOut = computed(() => !!detail.value!.locked_by && !isLead.value)
const categoryName = computed(() => bench.library.categoryById.get(detail.value!.preset.category_id ?? 0)?.name)
const said = computed(() => {
  const kept_ = {
    kept: dirty.value ? 'kept' : '',
    keeping: 'keeping…',
    'not saved': 'not saved yet; kept in this browser',
  }[kept.value]
  return kept.value !== 'kept' && offline.value ? 'offline; kept in this browser' : kept_
})

function ask(what: 'version' | 'brush') {
  if (!mayEdit.value) return
  if (what === 'brush') asking.value = 'brush'
  else if (dirty.value && !lockedOut.value) asking.value = overtaken.value ? 'merge' : 'version'
}
function overtake(note: string, captured: Item[]) {
  merging.value = { note, captured }
  asking.value = 'merge'
}
const bringTogether = () => overtake('', detail.value!.captured)

const discard = () =>
  bench.entered(async () =>
    of(
      api.POST('/api/libraries/{library}/reset', {
        ...bench.library.path(),
        body: { preset_ids: [bench.id], to: 'current' },
      }),
    ),
  )
// What was tuned last is kept before the list is made, and read anew when it is closed.
async function askBack() {
  await bench.keep()
  asking.value = 'reset'
}
async function askProposal() {
  await bench.keep()
  asking.value = 'proposal'
}
function closeBack() {
  asking.value = undefined
  bench.load()
}
const backWord = computed(
  () =>
    ({
      baseline: `the baseline, version ${detail.value!.preset.baseline}`,
      current: `version ${detail.value!.preset.version}`,
      received: `the first version, ${detail.value!.origin === 'received' ? 'as received' : 'as made'}`,
    })[bench.back.value],
)
const mayGoBack = computed(
  () =>
    dirty.value || detail.value!.preset.version !== detail.value!.preset.baseline || bench.back.value === 'received',
)
const lock = () =>
  bench.entered(async () =>
    of(api.PUT('/api/presets/{id}/lock', { ...at, body: { locked: !detail.value!.locked_by } })),
  )

defineExpose({ ask, rename: () => name.value?.begin() })
</script>

<template>
  <header class="line" aria-label="This brush">
    <BrushName :id="bench.id" ref="name" :name="document!.name" :first="bench.before" @renamed="bench.load()" />
    <button
      class="plain star"
      :aria-pressed="detail!.preset.favourite"
      :title="detail!.preset.favourite ? 'Remove from favourites' : 'Add to favourites'"
      aria-label="Favourite"
      @click="bench.favourite()"
    >
      {{ detail!.preset.favourite ? '♥' : '♡' }}
    </button>
    <span class="soft traits" :title="detail!.preset.traits.join(', ')">{{
      [categoryName, ...detail!.preset.traits].filter(Boolean).join(' · ')
    }}</span>
    <MethodChoice />
    <span v-if="bench.others.value.length" class="others" role="status"
      >{{ bench.others.value.join(' and ') }} {{ bench.others.value.length > 1 ? 'have' : 'has' }} it on the Bench
      too</span
    >
    <span v-if="detail!.hidden" class="missing" title="This brush is hidden; restore it under Brushes › Hidden"
      >hidden</span
    >
    <span
      v-if="detail!.locked_by"
      class="locked"
      :title="`Locked by ${detail!.locked_by}: only a lead can save a new version`"
      >locked</span
    >
    <template v-if="mayEdit">
      <button
        class="plain step"
        :disabled="!room.back"
        aria-label="Undo"
        title="Undo (Ctrl Z)"
        @click="bench.step('back')"
      >
        ↶
      </button>
      <button
        class="plain step"
        :disabled="!room.forth"
        aria-label="Redo"
        title="Redo (Ctrl Shift Z)"
        @click="bench.step('forth')"
      >
        ↷
      </button>
      <span
        class="soft said"
        :class="{ late: kept === 'not saved' }"
        role="status"
        title="Changes are saved to your draft at once"
        >{{ said }}</span
      >
    </template>
    <span class="grow" />
    <button v-if="overtaken" class="overtaken" @click="bringTogether">
      Version {{ detail!.preset.version }} is newer: merge…
    </button>
    <template v-if="mayEdit">
      <el-dropdown trigger="click">
        <button class="plain">Reset ▾</button>
        <template #dropdown
          ><el-dropdown-menu>
            <el-dropdown-item :disabled="!dirty || busy" @click="discard">Discard draft</el-dropdown-item>
            <el-dropdown-item :disabled="busy || !mayGoBack" @click="askBack"
              >Reset to {{ backWord }}…</el-dropdown-item
            >
          </el-dropdown-menu></template
        >
      </el-dropdown>
      <button
        v-if="bench.library.count('draft') || draftsShown"
        class="plain"
        :aria-pressed="draftsShown"
        title="Your unsaved changes to other brushes"
        @click="$emit('toggleDrafts')"
      >
        Drafts
      </button>
      <button class="plain" @click="$emit('open', 'history')">History ({{ detail!.versions.length }})</button>
      <el-dropdown trigger="click">
        <button class="plain">More ▾</button>
        <template #dropdown
          ><el-dropdown-menu>
            <el-dropdown-item @click="name?.begin()">Rename</el-dropdown-item>
            <el-dropdown-item @click="$emit('open', 'about')">About this brush…</el-dropdown-item>
            <el-dropdown-item :disabled="busy" @click="$emit('open', 'copy')">Copy settings…</el-dropdown-item>
            <el-dropdown-item @click="$emit('open', 'adjustments')">My adjustments…</el-dropdown-item>
            <el-dropdown-item :disabled="busy" @click="askProposal">Propose…</el-dropdown-item>
            <el-dropdown-item v-if="isLead" :disabled="busy" @click="lock">{{
              detail!.locked_by ? 'Unlock' : 'Lock'
            }}</el-dropdown-item>
          </el-dropdown-menu></template
        >
      </el-dropdown>
      <el-button :disabled="busy" @click="ask('brush')">Save as new brush…</el-button>
      <el-button v-if="lockedOut" disabled :title="`Locked by ${detail!.locked_by}: save yours as new brush`"
        >Locked</el-button
      >
      <el-button v-else type="primary" :disabled="!dirty || busy" @click="ask('version')"
        >Save version {{ next }}…</el-button
      >
    </template>
    <template v-else>
      <span class="soft">You’re a guest: try it on the pad; nothing is saved.</span>
      <button class="plain" @click="$emit('open', 'history')">History ({{ detail!.versions.length }})</button>
    </template>
  </header>

  <SaveVersionDialog v-if="asking === 'version'" :next="next" @close="asking = undefined" @overtaken="overtake" />
  <SaveAsDialog v-if="asking === 'brush'" @close="asking = undefined" />
  <MergeDialog v-if="asking === 'merge'" :note="merging.note" :capture="merging.captured" @close="asking = undefined" />
  <ProposeBrushes v-if="asking === 'proposal'" :ids="[bench.id]" :drafts="dirty" @close="asking = undefined" />
  <ResetDialog v-if="asking === 'reset'" :only="[bench.id]" :first="bench.back.value" @close="closeBack" />
</template>

<style scoped>
header {
  gap: 9px;
  padding: 7px 16px 5px;
  background: var(--card);
  white-space: nowrap;
  min-width: 0;
}
header > * {
  flex: none;
}
header > .grow {
  flex: 1;
}
/* Where it gets narrow the words give way, the name and the buttons never. */
header > :deep(h1) {
  flex: none;
  max-width: 260px;
}
header > .traits {
  flex: 0 1000 auto;
  overflow: hidden;
  text-overflow: ellipsis;
  min-width: 0;
}
@media (max-width: 1199px) {
  header > :deep(h1) {
    flex: 0 1 auto;
    min-width: 90px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
}
.star {
  font-size: 15px;
  color: var(--madder);
}
.others {
  color: var(--ochre);
  font-size: 12px;
}
.step {
  font-size: 17px;
  line-height: 1;
  padding: 0 3px;
}
header > .said {
  flex: 0 10 auto;
  overflow: hidden;
  text-overflow: ellipsis;
  min-width: 32px;
}
.said.late {
  color: var(--ochre);
  font-weight: 600;
}
.locked {
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  padding: 0 6px;
  font-weight: 700;
  font-size: 12px;
}
.overtaken {
  font: inherit;
  font-weight: 700;
  color: var(--ochre);
  background: var(--ochre-wash);
  border: 0;
  border-radius: 5px;
  padding: 3px 9px;
  cursor: pointer;
}
header :deep(.el-button + .el-button) {
  margin-left: 0;
}
header :deep(.el-button) {
  padding: 7px 11px;
  height: 30px;
}
</style>
