<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of, type Tag } from '../../api/client'
import TagMark from '../../parts/TagMark.vue'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import { words } from '../../stores/words'
import DropDialog from './DropDialog.vue'
import { useGroups } from './useGroups'

/** Tags with their looks and synonyms: changed, merged, removed where they hang nowhere. */
const library = useLibrary()
const toast = useToast()
const { doing, drop, dropping } = useGroups()
const looks = computed(() => words.value.looks)
const tag = ref<Tag & { words: string }>()
const merging = ref<number>()
const unusedOnly = ref(false)
const tags = computed(() => library.tags.filter(({ count }) => !unusedOnly.value || !count))
const at = (id: number) => ({ params: { path: { id } } })

function edit(one: Tag) {
  tag.value = { ...one, words: one.synonyms.join(', ') }
  merging.value = undefined
}
const apart = (text: string) =>
  text
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean)
const save = () =>
  doing(async () => {
    const { id, name, colour, shape, words } = tag.value!
    await of(api.PUT('/api/tags/{id}', { ...at(id), body: { name, colour, shape, synonyms: apart(words) } }))
    tag.value = undefined
  })
const remove = (one: Tag) => drop('tag', one.name, () => of(api.DELETE('/api/tags/{id}', at(one.id))))
const merge = () =>
  toast.recorded(async () => {
    const done = await of(api.POST('/api/tags/{id}/merge', { ...at(tag.value!.id), body: { into: merging.value! } }))
    tag.value = undefined
    return done
  })
</script>

<template>
  <section aria-label="Tags">
    <div class="line">
      <h1>Tags</h1>
      <span class="grow" /><el-checkbox v-model="unusedOnly" label="Unused only" />
    </div>
    <p class="soft">Any number per brush. Synonyms find the same tag.</p>
    <div v-for="one in tags" :key="one.id" class="item">
      <div v-if="tag?.id === one.id" class="edit">
        <form class="line" @submit.prevent="save">
          <el-input v-model="tag.name" size="small" aria-label="Name of the tag" maxlength="60" /><el-select
            v-model="tag.colour"
            size="small"
            aria-label="Colour"
            ><el-option v-for="c in looks.colours" :key="c" :value="c" :label="c" /></el-select
          ><el-select v-model="tag.shape" size="small" aria-label="Shape"
            ><el-option v-for="c in looks.shapes" :key="c" :value="c" :label="c"
          /></el-select>
        </form>
        <form class="line" @submit.prevent="save">
          <el-input
            v-model="tag.words"
            size="small"
            placeholder="Synonyms, comma-separated"
            aria-label="Synonyms"
          /><el-button size="small" native-type="submit">Save</el-button>
        </form>
        <form class="line" @submit.prevent="merge">
          <el-select
            v-model="merging"
            size="small"
            placeholder="Merge into another tag"
            aria-label="Merge into"
            filterable
            default-first-option
            ><el-option
              v-for="other in library.tags.filter(({ id }) => id !== one.id)"
              :key="other.id"
              :value="other.id"
              :label="other.name" /></el-select
          ><el-button size="small" native-type="submit" :disabled="!merging">Merge</el-button
          ><button type="button" class="plain" @click="tag = undefined">Close</button>
        </form>
      </div>
      <template v-else
        ><TagMark :tag="one" /><span class="soft">{{ one.count }}</span
        ><span v-if="one.synonyms.length" class="soft small">also {{ one.synonyms.join(', ') }}</span
        ><span class="grow" /><button class="plain" :aria-label="`Change the tag ${one.name}`" @click="edit(one)">
          Change</button
        ><button v-if="!one.count" class="plain" :aria-label="`Remove the tag ${one.name}`" @click="remove(one)">
          ✕
        </button></template
      >
    </div>
    <p v-if="!tags.length" class="soft">
      {{ unusedOnly ? 'No unused tags.' : 'No tags yet. Select brushes, then choose Tag in the tray.' }}
    </p>
    <DropDialog v-if="dropping" :dropping="dropping" @close="dropping = undefined" />
  </section>
</template>

<style scoped>
.edit {
  flex: 1;
  display: grid;
  gap: 4px;
  padding: 4px 0;
}
</style>
