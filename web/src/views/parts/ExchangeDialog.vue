<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import PartPicture from '../../parts/PartPicture.vue'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import type { Part } from './Parts.vue'

/** Which part takes this one's place, in every brush that has it. */
const props = defineProps<{ part: Part; all: Part[] }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const to = ref<string>()
const word = ref('')
const busy = ref(false)
const choices = computed(() =>
  props.all.filter(
    ({ sum, kind, name }) =>
      sum !== props.part.sum &&
      (kind === 'grain') === (props.part.kind === 'grain') &&
      name.toLowerCase().includes(word.value.trim().toLowerCase()),
  ),
)
const count = computed(() => props.part.brushes.length)
async function exchange() {
  busy.value = true
  const body = { from: props.part.sum, to: to.value! }
  const well = await toast.recorded(() =>
    of(api.POST('/api/libraries/{library}/parts/exchange', { ...library.path(), body })),
  )
  busy.value = false
  if (well) emit('close')
}
</script>

<template>
  <FormDialog
    :title="`Replace “${part.name}”`"
    :deed="`Replace in ${count} ${count === 1 ? 'brush' : 'brushes'}`"
    width="560px"
    :ready="!!to"
    :busy="busy"
    @submit="exchange"
    @close="emit('close')"
  >
    <p class="soft">Saved as your drafts; nothing changes for others until you save them.</p>
    <el-input v-model="word" placeholder="Find a tip or grain" aria-label="Find the other part" />
    <div class="choices" role="group" aria-label="The other part">
      <button
        v-for="one in choices"
        :key="one.sum"
        type="button"
        :aria-pressed="to === one.sum"
        :aria-label="`Use ${one.name}`"
        @click="to = one.sum"
      >
        <PartPicture :reference="`sha256:${one.sum}`" :label="one.name" />
        <span class="small">{{ one.name }}</span>
      </button>
    </div>
  </FormDialog>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
  grid-auto-rows: 94px;
  align-content: start;
  gap: 8px;
  max-height: 300px;
  overflow: auto;
  padding: 2px;
}
button {
  display: grid;
  justify-items: center;
  padding: 4px;
  font: inherit;
  color: #22252b;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 6px;
  cursor: pointer;
  overflow: hidden;
}
button[aria-pressed='true'] {
  outline: 2px solid var(--accent);
}
button :deep(img) {
  width: 64px;
  height: 64px;
  object-fit: contain;
}
</style>
