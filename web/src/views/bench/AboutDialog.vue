<script setup lang="ts">
import spdx from 'spdx-license-ids'
import { computed, ref } from 'vue'
import { api, of, type Document, type Entry } from '../../api/client'
import BrushName from '../../parts/BrushName.vue'
import PartPicture from '../../parts/PartPicture.vue'
import PictureDialog from './picture/PictureDialog.vue'
import { withValue } from './settings'
import { onBench } from './useBench'

/** What is known about the brush: its words, which a version keeps, and where it is found, which counts at once. */
const emit = defineEmits<{ close: [] }>()
const bench = onBench()
const { detail, document, library } = bench
const mayEdit = computed(() => bench.session.mayEdit)
const about = computed<Document>(() => document.value!.about ?? {})
const put = (key: string, value: unknown) =>
  bench.tune(withValue(document.value!, ['about', key], value), `about.${key}`)
/** What makes a brush findable, a line each. */
const SAID = {
  purpose: { title: 'Use', such: 'e.g. far rain over a finished sky' },
  ground: { title: 'Ground', such: 'e.g. mid grey, a finished wash' },
  sizes: { title: 'Size', such: 'e.g. 20 to 60 px' },
}
const NONE = ''
const choosing = ref(false)

const tags = computed(() => detail.value!.preset.tag_ids.flatMap((id) => library.tagById.get(id)?.name ?? []))
const where = () => library.path()
const here = { preset_ids: [bench.id] }

/** Tags, category and status are the library's: written down, with an undo. */
const recorded = async (deed: () => Promise<{ entry: Entry }>) => {
  if (await bench.toast.recorded(deed)) await bench.load()
}
const setTags = (next: string[]) => {
  const added = next.filter((one) => !tags.value.includes(one))
  const gone = tags.value.filter((one) => !next.includes(one))
  for (const tag of [...added, ...gone]) {
    recorded(() =>
      of(
        api.POST('/api/libraries/{library}/taggings', { ...where(), body: { tag, ...here, on: added.includes(tag) } }),
      ),
    )
  }
}
const sort = (kind: 'category' | 'status', place: number | '') =>
  recorded(() =>
    of(
      api.POST('/api/libraries/{library}/placings', {
        ...where(),
        body: { kind, place: place === NONE ? null : place, ...here },
      }),
    ),
  )
const licences = (text: string, give: (found: { value: string }[]) => void) =>
  give(
    spdx
      .filter((id) => id.toLowerCase().includes(text.toLowerCase()))
      .slice(0, 40)
      .map((value) => ({ value })),
  )
const isSet = computed(() => detail.value!.sets.map(({ name }) => name).join(', ') || 'none')
</script>

<template>
  <el-dialog model-value title="About this brush" width="560px" @close="emit('close')">
    <div class="fields">
      <span class="soft">Name</span
      ><BrushName :id="bench.id" :name="document!.name" :first="bench.before" @renamed="bench.load()" />
      <template v-for="(one, key) in SAID" :key="key">
        <label class="soft" :for="`about-${key}`">{{ one.title }}</label>
        <el-input
          v-if="mayEdit"
          :id="`about-${key}`"
          :model-value="about[key] ?? ''"
          :aria-label="one.title"
          maxlength="300"
          :placeholder="one.such"
          @update:model-value="put(key, $event || undefined)"
        /><span v-else>{{ about[key] || 'not set' }}</span>
      </template>
      <label class="soft" for="about-notes">Notes</label>
      <el-input
        v-if="mayEdit"
        id="about-notes"
        :model-value="about.notes"
        type="textarea"
        :rows="3"
        aria-label="Notes"
        maxlength="10000"
        placeholder="What it’s good for"
        @update:model-value="put('notes', $event)"
      /><span v-else>{{ about.notes || 'none' }}</span> <span class="soft">Author</span
      ><el-input
        v-if="mayEdit"
        :model-value="about.author"
        aria-label="Author"
        maxlength="200"
        placeholder="unknown"
        @update:model-value="put('author', $event)"
      /><span v-else>{{ about.author || 'unknown' }}</span> <span class="soft">Licence</span
      ><span v-if="mayEdit" v-suggests
        ><el-autocomplete
          :model-value="about.licence"
          aria-label="Licence"
          :fetch-suggestions="licences"
          maxlength="100"
          placeholder="SPDX identifier, e.g. CC-BY-4.0"
          @update:model-value="put('licence', $event)" /></span
      ><span v-else>{{ about.licence || 'none' }}</span>
      <span class="soft">Picture</span>
      <div class="line">
        <span v-if="about.picture" class="picture"
          ><PartPicture :reference="about.picture" :side="64" label="Preview picture" /></span
        ><span v-else class="soft">none (the strip is shown)</span>
        <template v-if="mayEdit"
          ><button class="plain" @click="choosing = true">{{ about.picture ? 'Change…' : 'choose…' }}</button
          ><button v-if="about.picture" class="plain" @click="put('picture', undefined)">Remove</button></template
        >
      </div>
    </div>
    <p v-if="mayEdit" class="soft small">
      Saved with the next version; until then part of your draft. The following apply at once, for everybody:
    </p>
    <div class="fields">
      <span class="soft">Tags</span>
      <el-select
        v-if="mayEdit"
        :model-value="tags"
        multiple
        filterable
        allow-create
        default-first-option
        aria-label="Tags"
        placeholder="none"
        @update:model-value="setTags"
        ><el-option v-for="one in library.tags" :key="one.id" :value="one.name" :label="one.name" /></el-select
      ><span v-else>{{ tags.join(', ') || 'none' }}</span>
      <span class="soft">Category</span>
      <el-select
        v-if="mayEdit"
        :model-value="detail!.preset.category_id ?? NONE"
        filterable
        default-first-option
        :empty-values="[null]"
        aria-label="Category"
        @update:model-value="sort('category', $event)"
        ><el-option :value="NONE" label="no category" /><el-option
          v-for="one in library.categories"
          :key="one.id"
          :value="one.id"
          :label="one.name" /></el-select
      ><span v-else>{{ library.categoryById.get(detail!.preset.category_id ?? 0)?.name ?? 'none' }}</span>
      <span class="soft">Status</span>
      <el-select
        v-if="mayEdit"
        :model-value="detail!.preset.status_id ?? NONE"
        aria-label="Status"
        :empty-values="[null]"
        @update:model-value="sort('status', $event)"
        ><el-option :value="NONE" label="none" /><el-option
          v-for="one in library.statuses"
          :key="one.id"
          :value="one.id"
          :label="one.name" /></el-select
      ><span v-else>{{ library.statusById.get(detail!.preset.status_id ?? 0)?.name ?? 'none' }}</span>
      <span class="soft">In sets</span><span>{{ isSet }}</span> <span class="soft">On desks</span
      ><span>{{ detail!.desks.join(', ') || 'none' }}</span>
    </div>
    <PictureDialog v-if="choosing" @close="choosing = false" />
    <template #footer><el-button @click="emit('close')">Close</el-button></template>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 8px 12px;
  align-items: center;
}
.picture {
  width: 44px;
  height: 44px;
}
.fields :deep(h1) {
  font-size: 15px;
}
p {
  margin: 12px 0 8px;
}
</style>
