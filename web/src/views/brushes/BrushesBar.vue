<script setup lang="ts">
import Grounds from '../../parts/Grounds.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { COLUMNS } from './columns'
import type { BrushesLook } from './useBrushesLook'

/** Above the list: how many there are, in which order, and how they look. */
defineProps<{ total?: number; unanswered: boolean; orders: string[][]; tallest: number }>()
defineEmits<{ takeBack: []; pickAll: [] }>()
const order = defineModel<string>('order', { required: true })
const look = defineModel<BrushesLook>('look', { required: true })
const library = useLibrary()
const session = useSession()
</script>

<template>
  <div class="bar line">
    <b v-if="unanswered" class="soft">No answer yet</b
    ><b v-else>{{ total ?? '–' }} {{ total === 1 ? 'brush' : 'brushes' }}</b>
    <el-select v-model="order" size="small" class="order" aria-label="Order"
      ><el-option v-for="[value, label] in orders" :key="value" :value="value!" :label="label!"
    /></el-select>
    <span class="grow" />
    <button
      v-if="session.mayEdit && library.count('changed') + library.count('draft')"
      class="plain"
      @click="$emit('takeBack')"
    >
      Reset…
    </button>
    <button class="plain" :disabled="!total" @click="$emit('pickAll')">Select these</button>
    <span class="line" role="group" aria-label="View"
      ><button
        v-for="mode in ['strips', 'rows', 'table'] as const"
        :key="mode"
        class="plain mode"
        :aria-pressed="look.mode === mode"
        @click="look.mode = mode"
      >
        {{ mode }}
      </button></span
    >
    <Grounds v-model="look.ground" :grounds="['white', 'grey', 'black']" label="Ground of the strips" />
    <el-slider
      v-if="look.mode === 'strips'"
      v-model="look.height"
      :min="36"
      :max="tallest"
      :show-tooltip="false"
      aria-label="Height of the strips"
    />
    <el-popover trigger="click" width="220"
      ><template #reference><button class="plain" aria-label="Show">…</button></template>
      <el-checkbox v-model="look.pictures" label="pictures beside the strips" />
      <el-checkbox-group v-if="look.mode === 'table'" v-model="look.columns"
        ><el-checkbox v-for="(title, name) in COLUMNS" :key="name" :value="name" :label="title" /></el-checkbox-group
    ></el-popover>
  </div>
</template>

<style scoped>
.bar {
  padding: 8px 14px;
  white-space: nowrap;
  gap: 5px;
  flex-wrap: wrap;
  row-gap: 2px;
}
.order {
  flex: none;
  width: 116px;
}
.bar .el-slider {
  width: 64px;
  flex: none;
  margin: 0 8px;
}
.mode[aria-pressed='false'] {
  color: var(--soft);
  font-weight: 500;
}
.bar .line {
  gap: 3px;
}
</style>
