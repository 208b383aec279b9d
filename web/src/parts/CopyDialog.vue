<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { api, of, type Document } from '../api/client'
import { groups } from '../views/bench/settings'
import FormDialog from './FormDialog.vue'
import PartPicture from './PartPicture.vue'
import PresetPicker from './PresetPicker.vue'
import ReviseDialog from './ReviseDialog.vue'

/** Settings of one brush to others, or of another brush to this one, a group at a time. */
const props = defineProps<{ ids: number[]; from?: Document }>()
const emit = defineEmits<{ close: []; done: []; take: [document: Document, groups: string[]] }>()
const source = shallowRef<Document | undefined>(props.from)
/** From the Bench with an empty tray there is only the other way round. */
const taking = ref(!!props.from && !props.ids.length)
const chosen = ref<string[]>(['response'])
const all = computed(() => [
  ...groups().slice(0, 2),
  { name: 'response', title: 'Response', help: '' },
  ...groups().slice(2),
])
const change = computed(() => {
  const ready = !taking.value && source.value && chosen.value.length && props.ids.length
  return ready ? { change: 'copy' as const, document: source.value!, groups: chosen.value } : undefined
})
const fetch = async (id: number) =>
  (await of(api.GET('/api/presets/{id}', { params: { path: { id } } }))).document as Document
const choose = async (id: number) => (source.value = await fetch(id))

// --- the other way round: from another brush to the one on the Bench -----------------------------
const other = shallowRef<Document>()
const chooseOther = async (id: number) => (other.value = await fetch(id))
function take() {
  emit('take', other.value!, chosen.value)
  emit('close')
}
const frames = (one?: Document) =>
  [...((one?.mark?.tip?.frames as string[]) ?? []), one?.mark?.tip?.asset, one?.surface?.asset].filter(
    Boolean,
  ) as string[]
/** The pictures that come along, to see rather than to count. */
const pictures = computed(() => {
  const from = taking.value ? other.value : source.value
  const [tip, grain] = [
    chosen.value.includes('mark') ? [...((from?.mark?.tip?.frames as string[]) ?? []), from?.mark?.tip?.asset] : [],
    chosen.value.includes('surface') ? [from?.surface?.asset] : [],
  ]
  return frames(from)
    .filter((one) => [...tip, ...grain].includes(one))
    .slice(0, 12)
})
</script>

<template>
  <component
    :is="taking ? FormDialog : ReviseDialog"
    v-bind="
      taking
        ? { deed: 'Take them over as my draft', ready: !!other && chosen.length > 0, width: '620px', onSubmit: take }
        : { change, ids }
    "
    :title="
      taking
        ? `Take settings into “${from!.name}”`
        : source
          ? `Copy settings of “${source.name}”`
          : 'Copy settings to the picked brushes'
    "
    @close="emit('close')"
    @done="emit('done')"
  >
    <p v-if="from && ids.length" class="line">
      <button class="plain" @click="taking = !taking">
        {{ taking ? `copy to the ${ids.length} in the tray instead` : 'take them from another brush instead' }}
      </button>
    </p>
    <p v-if="!from" class="line">
      <span class="soft">From</span><PresetPicker label="The brush to copy from" @pick="choose" @close="undefined" />
    </p>
    <p v-if="taking" class="line">
      <span class="soft">From</span
      ><PresetPicker label="The brush to take them from" @pick="chooseOther" @close="undefined" /><b v-if="other">{{
        other.name
      }}</b>
    </p>
    <el-checkbox-group v-model="chosen" aria-label="Groups to copy"
      ><el-checkbox v-for="{ name, title } in all" :key="name" :value="name" :label="title"
    /></el-checkbox-group>
    <p class="soft small">Mark brings the tip along, Surface the grain.</p>
    <p v-if="pictures.length" class="line">
      <span v-for="one in pictures" :key="one" class="picture"
        ><PartPicture :reference="one" label="comes along" :side="64"
      /></span>
    </p>
  </component>
</template>

<style scoped>
p {
  margin: 6px 0;
}
.picture {
  width: 46px;
  height: 46px;
  border: 1px solid var(--line);
  border-radius: 5px;
  overflow: hidden;
}
</style>
