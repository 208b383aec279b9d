<script setup lang="ts">
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import CopyDialog from '../../parts/CopyDialog.vue'
import type { Document } from '../../api/client'
import { useTray } from '../../stores/tray'
import History from './History.vue'
import MyHand from './MyHand.vue'
import Responses from './Responses.vue'
import Saving from './Saving.vue'
import Stack from './Stack.vue'
import TrialPad from './TrialPad.vue'
import Tuning from './Tuning.vue'
import { layOut } from './useBench'

const route = useRoute()
const bench = layOut(Number(route.params.id))
const { detail, document } = bench
const tray = useTray()
/** The chosen groups of another brush, tuned into this one as a draft. */
function take(from: Document, groups: string[]) {
  bench.tune({ ...document.value!, ...Object.fromEntries(groups.map((name) => [name, from[name]])) })
  bench.toast.done(`${groups.length === 1 ? 'One group' : `${groups.length} groups`} of “${from.name}” taken over, kept as your draft.`)
}
const open = ref<'history' | 'copy' | 'hand'>()
</script>

<template>
  <div v-if="detail && document" class="bench">
    <Stack @hand="open = 'hand'" />
    <div class="work">
      <Tuning />
      <Responses />
      <TrialPad />
    </div>
    <Saving @history="open = 'history'" @copy="open = 'copy'" />
    <History v-if="open === 'history'" @close="open = undefined" />
    <CopyDialog v-if="open === 'copy'" :from="document" :ids="tray.ids.filter((id) => id !== bench.id)" @close="open = undefined" @done="bench.load()" @take="take" />
    <MyHand v-if="open === 'hand'" @close="open = undefined" />
  </div>
</template>

<style scoped>
.bench { display: grid; grid-template: auto minmax(0, 1fr) auto / minmax(860px, 1fr); height: 100%; overflow-x: auto; }
.work { display: grid; grid-template-columns: minmax(290px, 1.05fr) minmax(330px, 1.3fr) minmax(250px, 0.95fr); min-height: 0; }
.work > * { min-height: 0; overflow: auto; padding: 8px 16px 12px; }
.work > * + * { border-left: 1px solid var(--line); }
.bench :deep(.el-drawer__header) { margin-bottom: 0; }
</style>
