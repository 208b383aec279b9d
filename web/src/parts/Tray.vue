<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../stores/session'
import { useTray } from '../stores/tray'
import CopyDialog from './CopyDialog.vue'
import ExportDialog from './ExportDialog.vue'
import FitDialog from './FitDialog.vue'
import ProposeBrushes from './ProposeBrushes.vue'
import RenameDialog from './RenameDialog.vue'
import ResetDialog from './ResetDialog.vue'
import Strip from './Strip.vue'
import TrayDialog, { type Question } from './TrayDialog.vue'
import OwnWord from './OwnWord.vue'

/** The presets picked so far, and what can be done with them all. */
const tray = useTray()
const session = useSession()
const router = useRouter()
const asking = ref<Question>()
const dialog = ref<'reset' | 'fit' | 'copy' | 'rename' | 'proof' | 'export' | 'proposal' | 'take'>()
const compare = () => router.push({ name: 'compare', query: { ids: tray.ids.slice(0, 6).join(',') } })
</script>

<template>
  <footer aria-label="Tray" :class="{ empty: !tray.ids.length }">
    <b><OwnWord word="tray">Tray</OwnWord> ({{ tray.ids.length }})</b>
    <div class="minis">
      <button
        v-for="preset in tray.presets"
        :key="preset.id"
        class="mini"
        :title="`Deselect ${preset.name}`"
        :aria-label="`Deselect ${preset.name}`"
        @click="tray.toggle(preset.id)"
      >
        <Strip :fingerprint="preset.fingerprint" :label="preset.name" />
      </button>
      <span v-if="tray.ids.length > tray.presets.length" class="soft"
        >and {{ tray.ids.length - tray.presets.length }} more</span
      >
      <span v-if="!tray.ids.length" class="soft">Select brushes with Space or +; they gather here.</span>
    </div>
    <template v-if="tray.ids.length">
      <button class="plain" @click="tray.clear()">Clear</button>
      <template v-if="session.mayEdit">
        <el-button @click="asking = 'tag'">Tag</el-button>
        <el-button @click="asking = 'set'">Add to set</el-button>
        <el-button @click="dialog = 'rename'">Rename</el-button>
      </template>
      <el-button :disabled="tray.ids.length < 2" @click="compare">Compare</el-button>
      <template v-if="session.mayEdit">
        <el-button @click="dialog = 'reset'">Reset</el-button>
        <el-button @click="asking = 'bundle'">Bundle</el-button>
      </template>
      <el-dropdown trigger="click">
        <el-button>More ▾</el-button>
        <template #dropdown
          ><el-dropdown-menu>
            <template v-if="session.mayEdit"
              ><el-dropdown-item @click="asking = 'category'">Set category…</el-dropdown-item
              ><el-dropdown-item @click="asking = 'status'">Set status…</el-dropdown-item
              ><el-dropdown-item @click="asking = 'duplicate'">Duplicate…</el-dropdown-item
              ><el-dropdown-item @click="dialog = 'fit'">Fit to canvas…</el-dropdown-item
              ><el-dropdown-item @click="dialog = 'copy'">Copy settings to these…</el-dropdown-item
              ><el-dropdown-item @click="asking = 'hide'">Hide…</el-dropdown-item></template
            >
            <el-dropdown-item @click="dialog = 'proposal'">Propose…</el-dropdown-item>
            <el-dropdown-item @click="dialog = 'take'">Copy to another library…</el-dropdown-item>
            <el-dropdown-item @click="dialog = 'proof'">Proof sheet…</el-dropdown-item>
          </el-dropdown-menu></template
        >
      </el-dropdown>
      <el-button type="primary" @click="dialog = 'export'">Export</el-button>
    </template>
    <!-- Inside a section, so that a dialog’s header isn’t taken for the page’s banner. -->
    <section>
      <TrayDialog v-if="asking" :asking="asking" @close="asking = undefined" />
      <FitDialog v-if="dialog === 'fit'" :ids="tray.ids" @close="dialog = undefined" />
      <CopyDialog v-if="dialog === 'copy'" :ids="tray.ids" @close="dialog = undefined" />
      <RenameDialog v-if="dialog === 'rename'" :ids="tray.ids" @close="dialog = undefined" />
      <ExportDialog
        v-if="dialog === 'proof' || dialog === 'export'"
        :which="{ preset_ids: tray.ids }"
        :count="tray.ids.length"
        :kind="dialog === 'proof' ? 'proof' : undefined"
        :title="session.library?.name ?? ''"
        @close="dialog = undefined"
      />
      <ProposeBrushes
        v-if="dialog === 'proposal' || dialog === 'take'"
        :ids="tray.ids"
        :takes="dialog === 'take'"
        @close="dialog = undefined"
      />
      <ResetDialog v-if="dialog === 'reset'" :only="tray.ids" @close="dialog = undefined" />
    </section>
  </footer>
</template>

<style scoped>
footer {
  grid-column: 1 / 3;
  display: flex;
  align-items: center;
  gap: 8px;
  height: 56px;
  padding: 0 16px;
  background: var(--card);
  border-top: 1px solid var(--line);
  white-space: nowrap;
}
footer > .el-button + .el-button {
  margin-left: 0;
}
footer :deep(.el-button) {
  padding: 8px 11px;
}
footer.empty {
  height: 26px;
  font-size: 12px;
}
.minis {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: center;
  overflow-x: auto;
  min-width: 0;
  padding: 4px 2px;
}
.mini {
  flex: 0 0 100px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  border-radius: 6px;
}
.mini:hover {
  opacity: 0.6;
}
@media (max-width: 820px) {
  footer {
    grid-column: 1;
    overflow-x: auto;
  }
  .minis {
    flex: 0 0 60px;
  }
}
</style>
