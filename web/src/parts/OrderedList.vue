<script setup lang="ts">
import { ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useLibrary } from '../stores/library'
import Strip from './Strip.vue'

/** Brushes in an order made by hand: dragged, or moved with the arrows beside them. */
const props = defineProps<{ ids: number[]; fixed?: boolean; empty: string }>()
const emit = defineEmits<{ change: [ids: number[]] }>()
const library = useLibrary()
const order = ref<number[]>([])
watch(() => props.ids, (ids) => (order.value = [...ids]), { immediate: true })

const give = () => emit('change', [...order.value])

function move(index: number, step: number) {
  const [one] = order.value.splice(index, 1)
  order.value.splice(index + step, 0, one!)
  give()
}

function takeOut(index: number) {
  order.value.splice(index, 1)
  give()
}
</script>

<template>
  <VueDraggable v-model="order" tag="ol" :disabled="fixed" :animation="120" handle=".grip, .strip" @end="give">
    <li v-for="(id, index) in order" :key="id">
      <span v-if="!fixed" class="grip soft" aria-hidden="true">⠿</span>
      <span class="soft place">{{ index + 1 }}</span>
      <Strip :fingerprint="library.byId.get(id)?.fingerprint" :label="library.byId.get(id)?.name ?? ''" />
      <b>{{ library.byId.get(id)?.name }}</b>
      <span class="soft">{{ library.byId.get(id)?.size }} px</span>
      <span class="grow" />
      <template v-if="!fixed">
        <button class="plain" :disabled="index === 0" :aria-label="`Move ${library.byId.get(id)?.name} up`" @click="move(index, -1)">↑</button>
        <button class="plain" :disabled="index === order.length - 1" :aria-label="`Move ${library.byId.get(id)?.name} down`" @click="move(index, 1)">↓</button>
        <button class="plain" :aria-label="`Take ${library.byId.get(id)?.name} out`" @click="takeOut(index)">✕</button>
      </template>
    </li>
  </VueDraggable>
  <p v-if="!order.length" class="empty">{{ empty }}</p>
</template>

<style scoped>
ol { list-style: none; margin: 0; padding: 0; }
li { display: flex; align-items: center; gap: 10px; padding: 4px 8px; border-radius: 7px; }
li:hover { background: var(--card); }
.grip { cursor: grab; }
.place { width: 22px; text-align: right; }
.strip { width: 260px; flex: none; }
</style>
