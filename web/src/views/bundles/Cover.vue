<script setup lang="ts">
import { ref } from 'vue'
import { api, asFile, of, type Bundle } from '../../api/client'
import Strip from '../../parts/Strip.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import type { Doing } from './useDoing'

/** The picture a bundle is known by: the strip of one of its brushes, or a picture of its own. */
const props = defineProps<{ bundle: Bundle; doing: Doing }>()
const library = useLibrary()
const session = useSession()
const pictures = ref<HTMLInputElement>()
const path = () => ({ id: props.bundle.id })
const choose = (cover: number) =>
  props.doing(() => of(api.PUT('/api/bundles/{id}', { params: { path: path() }, body: { cover } })))
async function bring(file?: File) {
  if (pictures.value) pictures.value.value = ''
  if (!file) return
  const params = { path: path(), query: { file: file.name } }
  await props.doing(
    () => of(api.PUT('/api/bundles/{id}/picture', { params, ...asFile(file) })),
    'Cover saved, cropped to a square.',
  )
}
</script>

<template>
  <div class="line cover">
    <label v-if="session.mayEdit" class="line"
      >Cover picture<el-select
        :model-value="bundle.cover ?? ''"
        aria-label="Cover picture"
        placeholder="Strip of…"
        filterable
        default-first-option
        @update:model-value="choose($event as number)"
        ><el-option
          v-for="id in bundle.preset_ids"
          :key="id"
          :value="id"
          :label="library.byId.get(id)?.name ?? ''" /></el-select></label
    ><template v-if="session.mayEdit"
      ><span class="soft">or</span><button class="plain" @click="pictures?.click()">Upload a picture…</button
      ><input
        ref="pictures"
        type="file"
        accept="image/*"
        hidden
        aria-label="Choose a cover picture"
        @change="bring(pictures?.files?.[0])" /></template
    ><img v-if="bundle.picture" :src="bundle.picture" class="own" alt="The cover" /><Strip
      v-else-if="bundle.cover"
      :fingerprint="library.byId.get(bundle.cover)?.fingerprint"
      label="the cover"
    />
  </div>
</template>

<style scoped>
.cover {
  margin: 12px 8px;
  flex-wrap: wrap;
}
.own {
  width: 96px;
  height: 96px;
  border-radius: 8px;
  border: 1px solid var(--line);
}
.cover .el-select {
  width: 180px;
}
.cover .strip {
  width: 160px;
}
</style>
