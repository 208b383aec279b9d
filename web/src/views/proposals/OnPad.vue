<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { api, of, type Document } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { layUnderPad } from '../bench/onPad'
import Pad from '../bench/Pad.vue'
import { USUAL } from '../bench/useBench'

/** A proposed brush under one's own hand, in turn with those it resembles: the same strokes, painted by each. */
const props = defineProps<{ proposal: number; item: number; name: string; sample: string }>()
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const toast = useToast()
const brushes = shallowRef<{ title: string; document: Document }[]>([])
const chosen = ref(0)
void toast.attempt(async () => {
  const path = { id: props.proposal, item: props.item }
  const got = await of(api.GET('/api/proposals/{id}/items/{item}', { params: { path } }))
  brushes.value = got.brushes as typeof brushes.value
})
layUnderPad({
  document: computed(() => brushes.value[chosen.value]?.document),
  trying: ref({ ...USUAL, sample: props.sample || USUAL.sample }),
  strokesChanged: ref(0),
  library,
  session: useSession(),
  toast,
})
</script>

<template>
  <el-dialog model-value :title="`“${name}” on the pad`" width="760px" @close="emit('close')">
    <div v-if="brushes.length" class="pad-of">
      <el-radio-group v-model="chosen" aria-label="Which brush paints">
        <el-radio v-for="(one, index) in brushes" :key="one.title" :value="index">{{ one.title }}</el-radio>
      </el-radio-group>
      <Pad />
    </div>
  </el-dialog>
</template>

<style scoped>
.pad-of {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 10px;
  height: min(62vh, 520px);
}
.line {
  flex-wrap: wrap;
}
</style>
