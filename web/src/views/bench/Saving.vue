<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import { Refused } from '../../api/client'
import ResetDialog from '../../parts/ResetDialog.vue'
import MergeDialog from './MergeDialog.vue'
import SaveAsDialog from './SaveAsDialog.vue'
import { shown, valueAt } from './settings'
import { onBench } from './useBench'

/** Saving and going back, in words: what is kept, and what would be saved along only if asked for. */
defineEmits<{ history: []; copy: [] }>()
const bench = onBench()
const { detail, document, dirty, busy, at } = bench
const note = ref('')
const asking = ref<'edition' | 'brush' | 'merge'>()

const ITEMS = [['colour', ['pigment', 'colour'], 'Colour'], ['layer', ['habits', 'layer'], 'Layer'], ['under', ['habits', 'under'], 'Lay under'], ['mirror', ['habits', 'mirror'], 'Mirror']] as const
const capture = ref<Record<string, boolean>>({})
// What the edition holds already was asked for once; anything else is off.
watch(() => detail.value!.captured, (held) => (capture.value = Object.fromEntries(ITEMS.map(([name]) => [name, held.includes(name)]))), { immediate: true })
const items = computed(() => ITEMS.map(([name, path, title]) => {
  const value = valueAt(document.value!, [...path])
  const there = name === 'colour' ? (value as { mode: string }).mode === 'fixed' : name === 'under' ? value === true : value !== null
  return { name, title, there, value: there ? shown({ unit: '' }, value) : 'nothing to save' }
}))
const captured = computed(() => ITEMS.map(([name]) => name).filter((name) => capture.value[name]))
const left = computed(() => items.value.filter(({ name, there }) => there && !capture.value[name]))
const next = computed(() => Math.max(...detail.value!.editions.map(({ number }) => number)) + 1)
const lockedOut = computed(() => !!detail.value!.locked_by && bench.session.library?.role !== 'lead')

const saveEdition = () => bench.doing(async () => {
  try {
    const got = await of(api.POST('/api/presets/{id}/editions', { ...at, body: { document: document.value!, base: detail.value!.draft?.base ?? detail.value!.preset.edition, note: note.value, capture: captured.value } }))
    bench.take(got)
    note.value = ''
    asking.value = undefined
    await bench.library.load()
    const along = items.value.filter(({ name, there }) => there && capture.value[name]).map(({ title }) => title.toLowerCase())
    bench.toast.done(`Saved as edition ${got.preset.edition}: all its settings, its tip and its grain${along.length ? `, and its ${along.join(', ')}` : ''}.`)
  } catch (error) {
    if (error instanceof Refused && error.status === 409) { asking.value = 'merge'; return }
    throw error
  }
})

const discard = () => bench.entered(async () => of(api.POST('/api/libraries/{library}/reset', { ...bench.library.path(), body: { preset_ids: [bench.id], to: 'current' } })))
const resetting = ref(false)
// What was tuned last is kept before the list is made, and read anew when it is closed.
const askBack = async () => { await bench.keep(); resetting.value = true }
const closeBack = () => { resetting.value = false; bench.load() }
const backWord = computed(() => ({ home: `home, edition ${detail.value!.preset.home}`, current: `edition ${detail.value!.preset.edition}`, received: 'the state as received' })[bench.back.value])
const mayGoBack = computed(() => dirty.value || detail.value!.preset.edition !== detail.value!.preset.home || bench.back.value === 'received')
const lock = () => bench.entered(async () => of(api.PUT('/api/presets/{id}/lock', { ...at, body: { locked: !detail.value!.locked_by } })))
</script>

<template>
  <section v-if="bench.session.mayEdit" class="saving line" aria-label="Save">
    <b>Save</b>
    <el-button type="primary" :disabled="!dirty || busy || lockedOut" @click="asking = 'edition'">as edition {{ next }}…</el-button>
    <el-button :disabled="busy" @click="asking = 'brush'">as a new brush…</el-button>
    <span v-if="lockedOut" class="soft small">Locked by {{ detail!.locked_by }}: save yours as a new brush.</span>
    <span class="grow" />
    <el-button :disabled="!dirty || busy" @click="discard">Discard my change</el-button>
    <el-button :disabled="busy || !mayGoBack" @click="askBack">Reset to {{ backWord }}</el-button>
    <el-button @click="$emit('history')">History · {{ detail!.editions.length }}</el-button>
    <el-button :disabled="busy" @click="$emit('copy')">Copy settings…</el-button>
    <el-button v-if="bench.session.library?.role === 'lead'" :disabled="busy" @click="lock">{{ detail!.locked_by ? 'Open' : 'Lock' }}</el-button>
  </section>
  <section v-else class="saving line soft">You are here as a guest: paint on the pad as you like, nothing is changed.<span class="grow" /><el-button @click="$emit('history')">History · {{ detail!.editions.length }}</el-button></section>

  <el-dialog v-if="asking === 'edition'" model-value :title="`Save “${document!.name}” as edition ${next}`" width="440px" @close="asking = undefined">
    <form @submit.prevent="saveEdition">
      <p class="soft">Saved are all settings in Mark, Trail, Response, Surface and Pigment, with the tip and the grain. Edition {{ detail!.preset.edition }} stays as it is.</p>
      <el-input v-model="note" placeholder="What changed (optional)" aria-label="A note for this edition" maxlength="200" autofocus />
      <fieldset>
        <legend>Saved along only if switched on</legend>
        <label v-for="one in items" :key="one.name" class="line"><el-switch v-model="capture[one.name]" size="small" :disabled="!one.there" :aria-label="`Save the ${one.title.toLowerCase()} along`" /><span>{{ one.title }}</span><span class="soft">{{ one.value }}</span></label>
      </fieldset>
      <p v-if="left.length" class="soft">Not saved: {{ left.map(({ title }) => title.toLowerCase()).join(', ') }}. {{ left.length === 1 ? 'It was' : 'They were' }} on while you tried the brush.</p>
      <div class="line end"><el-button @click="asking = undefined">Cancel</el-button><el-button type="primary" native-type="submit" :loading="busy">Save edition {{ next }}</el-button></div>
    </form>
  </el-dialog>
  <ResetDialog v-if="resetting" :only="[bench.id]" :first="bench.back.value" @close="closeBack" />
  <SaveAsDialog v-if="asking === 'brush'" :captured="captured" :items="items" :switches="capture" @close="asking = undefined" />
  <MergeDialog v-if="asking === 'merge'" :note="note" :capture="captured" @close="asking = undefined" />
</template>

<style scoped>
.saving { padding: 8px 16px; background: var(--card); border-top: 1px solid var(--line); white-space: nowrap; }
.saving :deep(.el-button + .el-button), .end :deep(.el-button + .el-button) { margin-left: 0; }
.saving :deep(.el-button) { padding: 8px 11px; }
form { display: grid; gap: 12px; }
form p { margin: 0; }
fieldset { border: 1px solid var(--line); border-radius: 7px; padding: 6px 12px 10px; margin: 0; display: grid; gap: 6px; }
legend { font-weight: 700; font-size: 12px; padding: 0 4px; }
.end { justify-content: flex-end; }
</style>
