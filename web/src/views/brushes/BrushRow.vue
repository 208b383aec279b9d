<script setup lang="ts">
import { computed } from 'vue'
import type { Preset } from '../../api/client'
import PartPicture from '../../parts/PartPicture.vue'
import Strip from '../../parts/Strip.vue'
import TagMark from '../../parts/TagMark.vue'
import { useLibrary } from '../../stores/library'
import { useTray } from '../../stores/tray'
import { cell } from './columns'
import type { BrushesLook } from './useBrushesLook'

/** A brush in the list: its strip, and in words what it is, as much as the look of the brush list has room for. */
const props = defineProps<{ preset: Preset; look: BrushesLook; strip: number }>()
const library = useLibrary()
const tray = useTray()
const picked = computed(() => tray.has(props.preset.id))
const state = computed(() => library.statusById.get(props.preset.status_id ?? 0))
/** A tag that this page has not heard of yet is still one. */
const UNKNOWN = { name: '…', colour: 'slate', shape: 'square' }
const tags = computed(() => props.preset.tag_ids.map((id) => ({ id, look: library.tagById.get(id) ?? UNKNOWN })))
</script>

<template>
  <span v-if="look.pictures" class="preview"
    ><PartPicture v-if="preset.picture" :reference="`sha256:${preset.picture}`" :label="`Picture of ${preset.name}`"
  /></span>
  <Strip
    :key="preset.fingerprint"
    :fingerprint="preset.fingerprint"
    :label="preset.name"
    :wide="look.mode === 'strips' ? strip : 170"
    :style="look.mode === 'strips' ? { width: `${strip}px` } : {}"
  />
  <div v-if="look.mode === 'strips'" class="words">
    <div class="line">
      <b>{{ preset.name }}</b><span class="soft size">{{ preset.size }} px</span
      ><span v-if="preset.favourite" class="heart" title="favourite">♥</span
      ><span v-if="preset.locked" class="locked">locked</span>
    </div>
    <div class="tags soft">
      <span v-if="preset.draft" class="changed">unsaved change</span
      ><span v-else-if="preset.altered" class="changed">version {{ preset.version }}</span
      ><TagMark v-if="state" state :tag="state" /><TagMark v-for="tag in tags" :key="tag.id" :tag="tag.look" />
    </div>
    <div class="soft small traits">{{ preset.traits.join(' · ') }}</div>
  </div>
  <template v-else-if="look.mode === 'rows'"
    ><b class="name">{{ preset.name }}</b
    ><span class="soft">{{ preset.size }} px</span><span v-if="preset.draft" class="changed">unsaved</span
    ><span class="soft grow traits">{{ preset.traits.join(' · ') }}</span></template
  >
  <template v-else
    ><b class="name">{{ preset.name }}</b
    ><span v-for="column in look.columns" :key="column" :class="`of-${column}`" class="soft">{{
      cell(preset, column)
    }}</span
    ><span class="grow"
  /></template>
  <button
    class="pick"
    :class="{ on: picked }"
    :aria-pressed="picked"
    :aria-label="picked ? `Deselect ${preset.name}` : `Select ${preset.name}`"
    tabindex="-1"
    @click.stop="tray.toggle(preset.id)"
  >
    {{ picked ? '✓' : '+' }}
  </button>
</template>

<style scoped>
.strip {
  flex: none;
}
.preview {
  flex: none;
  width: 44px;
  height: 44px;
}
.rows .preview,
.table .preview {
  width: 26px;
  height: 26px;
}
.rows .strip {
  width: 170px;
}
.table .strip {
  width: 120px;
}
.words {
  flex: 1;
  min-width: 0;
}
.words b {
  font-size: 14px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  max-height: 18px;
  overflow: hidden;
}
.size {
  white-space: nowrap;
  flex: none;
}
.traits {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.heart {
  color: var(--madder);
}
.locked {
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  padding: 0 5px;
  font-size: 11px;
  font-weight: 700;
}
/* In columns, as the head above them (Brushes.vue); they give way together where there is little room. */
.table span:not(.strip, .grow, .preview) {
  flex: 0 1 76px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.table .name,
.rows .name {
  flex: 0 1 150px;
  min-width: 60px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.table span.of-traits:not(.strip),
.table span.of-tags:not(.strip),
.table span.of-notes:not(.strip) {
  flex: 1 1 110px;
}
.table .grow {
  display: none;
}
.pick {
  flex: none;
  width: 26px;
  height: 26px;
  border-radius: 7px;
  border: 1px solid var(--line-strong);
  background: var(--card);
  color: var(--soft);
  font: inherit;
  font-weight: 700;
  cursor: pointer;
}
.rows .pick,
.table .pick {
  height: 22px;
}
.pick.on {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--on-accent);
}
/* Where the words stand below a wide strip. */
.below .words {
  flex: none;
  width: calc(100% - 44px);
}
.below .pick {
  position: absolute;
  right: 10px;
  bottom: 14px;
}
</style>
