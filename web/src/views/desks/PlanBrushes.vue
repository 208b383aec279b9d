<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { api, of } from '../../api/client'
import { turns } from '../../parts/newest'
import Strip from '../../parts/Strip.vue'
import { atDesk, fresh, type PlanLine } from './useDesk'

/** The library's brushes beside a start-up plan, found as in Brushes: dragged into it, or put in by their “+”. */
defineEmits<{ close: [] }>()
const { library, toast, add } = atDesk()
const word = ref('')
const rows = ref<PlanLine[]>([])
const prints = ref(new Map<string, string>())
const MOST = 60
const turn = turns()
const load = () =>
  toast.attempt(async () => {
    const mine = turn()
    const params = { ...library.path().params, query: { q: word.value, limit: MOST } }
    const { presets } = await of(api.GET('/api/libraries/{library}/brushes', { params }))
    if (!mine()) return
    prints.value = new Map(presets.map((one) => [`brush/${one.document_id}`, one.fingerprint]))
    rows.value = presets.map((one) => fresh(`brush/${one.document_id}`, one.name, 'startup'))
  })
watch([word, () => library.stamp], useDebounceFn(load, 150), { immediate: true })
const copy = (one: PlanLine) => ({ ...one })
</script>

<template>
  <section aria-label="Brushes beside the plan">
    <div class="line">
      <el-input v-model="word" size="small" placeholder="Search" aria-label="Find a brush for the plan" />
      <button class="plain" aria-label="Close the brushes beside the plan" @click="$emit('close')">✕</button>
    </div>
    <VueDraggable
      v-model="rows"
      class="list"
      :group="{ name: 'plan', pull: 'clone', put: false }"
      :clone="copy"
      :sort="false"
      :force-fallback="true"
      :fallback-tolerance="4"
      :scroll="false"
    >
      <div v-for="one in rows" :key="one.thing" class="one" :data-beside="one.thing">
        <Strip :fingerprint="prints.get(one.thing)" :label="one.title" :wide="110" lazy />
        <span class="name">{{ one.title }}</span>
        <button class="plain" :aria-label="`Add ${one.title} to start-up`" @click="add([one], 'startup')">+</button>
      </div>
    </VueDraggable>
    <p v-if="!rows.length" class="soft small">Nothing is found.</p>
  </section>
</template>

<style scoped>
.list {
  max-height: 48vh;
  overflow: auto;
  margin-top: 6px;
}
.one {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px;
  cursor: grab;
}
.strip {
  width: 84px;
  flex: none;
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
