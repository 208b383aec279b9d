<script setup lang="ts">
import { useEventListener, useLocalStorage, useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import CopyDialog from '../../parts/CopyDialog.vue'
import type { Document } from '../../api/client'
import { useTray } from '../../stores/tray'
import AboutDialog from './AboutDialog.vue'
import BenchHead from './BenchHead.vue'
import { benchKey } from './keys'
import History from './History.vue'
import MyAdjustments from './MyAdjustments.vue'
import OtherDrafts from './OtherDrafts.vue'
import Responses from './Responses.vue'
import type { Group } from './settings'
import Stack from './Stack.vue'
import TakeDialog from './TakeDialog.vue'
import Pad from './Pad.vue'
import Tuning from './Tuning.vue'
import { layOut } from './useBench'

const route = useRoute()
const bench = layOut(Number(route.params.id))
const { detail, document } = bench
const tray = useTray()
const head = ref<InstanceType<typeof BenchHead>>()
/** Whether the other drafts are shown: as the person last chose, or else where there is room and more than one. */
const draftsChoice = useLocalStorage<'open' | 'closed' | ''>('fobrel.drafts', '')
const roomy = useMediaQuery('(min-width: 1440px)')
const draftsShown = computed(() =>
  draftsChoice.value ? draftsChoice.value === 'open' : roomy.value && bench.library.count('draft') > 1,
)
const toggleDrafts = () => (draftsChoice.value = draftsShown.value ? 'closed' : 'open')
type Sheet = 'history' | 'copy' | 'take' | 'adjustments' | 'about'
const open = ref<Sheet>()
/** What settings can be copied to from here. */
const picked = computed(() => tray.ids.filter((id) => id !== bench.id))

/** The chosen groups of another brush, tuned into this one as a draft. */
function take(from: Document, groups: Group[]) {
  bench.tune({ ...document.value!, ...Object.fromEntries(groups.map((name) => [name, from[name]])) })
  const count = groups.length === 1 ? 'One group' : `${groups.length} groups`
  bench.toast.done(`${count} copied from “${from.name}” into your draft.`)
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  benchKey(event, {
    back: () => bench.step('back'),
    forth: () => bench.step('forth'),
    save: () => head.value?.ask('version'),
    saveAs: () => head.value?.ask('brush'),
    rename: () => head.value?.rename(),
    about: () => (open.value = 'about'),
  })
})
</script>

<template>
  <div v-if="bench.missing.value" class="empty" role="alert">
    <p>{{ bench.missing.value }}</p>
    <el-button type="primary" @click="bench.router.push({ name: 'brushes' })">Go to Brushes</el-button>
  </div>
  <div v-else-if="detail && document" class="bench-and-drafts">
    <OtherDrafts v-if="draftsShown && bench.session.mayEdit" :brush="bench.id" @close="draftsChoice = 'closed'" />
    <div class="bench">
      <BenchHead ref="head" :drafts-shown="draftsShown" @open="open = $event" @toggle-drafts="toggleDrafts" />
      <Stack @adjustments="open = 'adjustments'" />
      <div class="work">
        <Tuning />
        <Responses />
        <Pad />
      </div>
      <History v-if="open === 'history'" @close="open = undefined" />
      <CopyDialog
        v-if="open === 'copy' && picked.length"
        :from="document"
        :ids="picked"
        @close="open = undefined"
        @done="bench.load()"
      >
        <p class="line"><button class="plain" @click="open = 'take'">Copy from another brush</button></p>
      </CopyDialog>
      <TakeDialog
        v-else-if="open === 'copy' || open === 'take'"
        :into="document"
        @close="open = undefined"
        @take="take"
      >
        <p v-if="picked.length" class="line">
          <button class="plain" @click="open = 'copy'">Copy to the {{ picked.length }} in the tray</button>
        </p>
      </TakeDialog>
      <MyAdjustments v-if="open === 'adjustments'" @close="open = undefined" />
      <AboutDialog v-if="open === 'about'" @close="open = undefined" />
    </div>
  </div>
</template>

<style scoped>
.bench-and-drafts {
  display: flex;
  position: relative;
  height: 100%;
}
.bench-and-drafts > aside {
  flex: none;
}
.bench {
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template: auto auto minmax(0, 1fr) / minmax(860px, 1fr);
  overflow-x: auto;
  --strip-height: clamp(54px, 7.2vh, 104px);
}
.work {
  display: grid;
  grid-template-columns: minmax(320px, 1.18fr) minmax(300px, 1.2fr) minmax(250px, 1fr);
  min-height: 0;
}
.work > * {
  min-height: 0;
  min-width: 0;
  overflow: auto;
  padding: 7px 16px 8px;
}
.work > * + * {
  border-left: 1px solid var(--line);
}
.bench :deep(.el-drawer__header) {
  margin-bottom: 0;
}
/* Too narrow for both: the drafts cover the left of the Bench. */
@media (max-width: 1279px) {
  .bench-and-drafts > aside {
    position: absolute;
    inset: 0 auto 0 0;
    z-index: 5;
    box-shadow: 4px 0 18px rgb(0 0 0 / 18%);
  }
}
/* Half a screen, or all twice as large: one below the other. */
@media (max-width: 820px) {
  .bench {
    display: block;
    overflow-x: hidden;
    overflow-y: auto;
  }
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
  .work > * {
    overflow: visible;
  }
  .work > * + * {
    border-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
