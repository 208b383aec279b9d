<script setup lang="ts">
import spdx from 'spdx-license-ids'
import { computed, reactive, watch } from 'vue'
import { api, of, type Bundle } from '../../api/client'
import { enter } from '../../parts/enter'
import { useSession } from '../../stores/session'
import type { Doing } from './useDoing'

/** What a bundle is called, who made it, under which licence, what it is. */
const props = defineProps<{ bundle: Bundle; busy: boolean; doing: Doing }>()
const session = useSession()
const KEYS = ['name', 'description', 'author', 'licence'] as const
const words = reactive({ name: '', description: '', author: '', licence: '' })
watch(
  () => props.bundle,
  (bundle) => KEYS.forEach((key) => (words[key] = bundle[key])),
  { immediate: true },
)
const changed = computed(() => KEYS.some((key) => words[key] !== props.bundle[key]))
const save = () =>
  props.doing(
    () => of(api.PUT('/api/bundles/{id}', { params: { path: { id: props.bundle.id } }, body: { ...words } })),
    'Bundle saved.',
  )
const suggest = (text: string, give: (found: { value: string }[]) => void) =>
  give(
    spdx
      .filter((id) => id.toLowerCase().includes(text.toLowerCase()))
      .slice(0, 40)
      .map((value) => ({ value })),
  )
</script>

<template>
  <form
    class="words"
    :inert="!session.mayEdit"
    @submit.prevent="save"
    @keydown.enter.capture="changed && !busy && enter($event, save)"
  >
    <label>Name<el-input v-model="words.name" aria-label="Name of the bundle" maxlength="100" /></label
    ><label>Author<el-input v-model="words.author" aria-label="Author" maxlength="200" /></label>
    <label v-suggests
      >Licence (SPDX)<el-autocomplete
        v-model="words.licence"
        :fetch-suggestions="suggest"
        aria-label="Licence"
        placeholder="such as CC-BY-4.0"
    /></label>
    <label class="wide"
      >Description<el-input
        v-model="words.description"
        type="textarea"
        :rows="2"
        aria-label="Description"
        maxlength="5000" /></label
    ><el-button native-type="submit" :disabled="!changed || busy">Save</el-button>
  </form>
</template>

<style scoped>
.words {
  display: grid;
  grid-template-columns: repeat(3, 1fr) auto;
  gap: 8px 12px;
  align-items: end;
  margin-bottom: 12px;
}
.words .wide {
  grid-column: 1 / 4;
}
@media (max-width: 1180px) {
  .words {
    grid-template-columns: repeat(2, 1fr);
  }
  .words .wide {
    grid-column: 1 / 3;
  }
}
</style>
