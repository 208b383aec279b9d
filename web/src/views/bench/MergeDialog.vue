<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'
import { api, of, type Document } from '../../api/client'
import type { components } from '../../api/schema'
import { turns } from '../../parts/newest'
import OneScale from '../../parts/OneScale.vue'
import Painted from '../../parts/Painted.vue'
import { onBench } from './useBench'
import type { Item } from './useCapture'

/** Somebody saved meanwhile: both changes side by side, brought together setting by setting. */
const props = defineProps<{ note: string; capture: Item[] }>()
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, document, at, busy } = bench
const merge = shallowRef<components['schemas']['Merge']>()
const choices = ref<Record<string, 'mine' | 'theirs'>>({})
const problem = ref('')
const mine: Document = document.value!

const turn = turns()
const bring = () =>
  bench.toast.attempt(async () => {
    const current = turn()
    const got = await of(api.POST('/api/presets/{id}/merge', { ...at, body: { choices: choices.value } }))
    if (current()) merge.value = got
  })
onMounted(bring)
function choose(key: string, side: 'mine' | 'theirs') {
  choices.value = { ...choices.value, [key]: side }
  bring()
}

async function save() {
  const { version: base } = merge.value!
  problem.value = ''
  try {
    await bench.doing(async () => {
      const note = props.note || `Merged with version ${base}`
      const body = { kept: detail.value!.kept, base, note, capture: props.capture, choices: choices.value }
      const got = await of(api.POST('/api/presets/{id}/versions', { ...at, body }))
      bench.take(got)
      await bench.library.load()
      bench.toast.done(`Saved as version ${got.preset.version}, with both changes.`)
    })
    emit('close')
  } catch (error) {
    problem.value = (error as Error).message
    await bring()
  }
}
</script>

<template>
  <el-dialog
    model-value
    :title="
      merge
        ? `${merge.by ?? 'Somebody'} saved version ${merge.version} in the meantime`
        : 'Somebody saved in the meantime'
    "
    width="820px"
    @close="emit('close')"
  >
    <OneScale v-if="merge">
      <p class="soft">
        Nothing was overwritten; yours is kept as a draft. Where you both changed a setting, choose one.
      </p>
      <div class="row">
        <b>Theirs</b><Painted :ask="bench.ask(merge.their_document)" label="their version" /><span class="soft small">{{
          merge.theirs.join(', ') || 'nothing'
        }}</span>
      </div>
      <div class="row">
        <b>Yours</b><Painted :ask="bench.ask(mine)" label="your change" /><span class="soft small">{{
          merge.mine.join(', ') || 'nothing'
        }}</span>
      </div>
      <div class="row">
        <b>Together</b><Painted :ask="bench.ask(merge.document)" label="both together" data-test="together" /><span
          class="soft small"
          >{{ merge.undecided ? 'theirs where undecided' : 'as it will be saved' }}</span
        >
      </div>
      <table v-if="merge.conflicts.length">
        <tr v-for="one in merge.conflicts" :key="one.key">
          <th scope="row">
            {{ one.title }} <span class="soft small">was {{ one.words.base }}</span>
          </th>
          <td>
            <el-radio-group
              :model-value="choices[one.key]"
              :aria-label="`${one.title}: whose?`"
              @update:model-value="choose(one.key, $event as 'mine' | 'theirs')"
              ><el-radio value="theirs">Theirs, {{ one.words.theirs }}</el-radio
              ><el-radio value="mine">Mine, {{ one.words.mine }}</el-radio></el-radio-group
            >
          </td>
        </tr>
      </table>
      <p v-else class="soft">You changed different settings, so nothing conflicts.</p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </OneScale>
    <template #footer>
      <el-button @click="emit('close')">Keep mine as a draft</el-button>
      <el-button type="primary" :disabled="!merge || merge.undecided" :loading="busy" @click="save"
        >Save both as version {{ (merge?.version ?? 0) + 1 }}</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 74px 1fr 210px;
  gap: 12px;
  align-items: center;
  margin-bottom: 6px;
}
p {
  margin: 0 0 10px;
}
table {
  width: 100%;
  margin-top: 10px;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 600;
}
tr {
  border-top: 1px solid var(--line);
}
.problem {
  color: var(--madder);
}
</style>
