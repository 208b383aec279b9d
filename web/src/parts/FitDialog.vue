<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, reactive } from 'vue'
import { useSession } from '../stores/session'
import ReviseDialog from './ReviseDialog.vue'

/** Brings the sizes of brushes in line with a canvas. */
defineProps<{ ids: number[] }>()
defineEmits<{ close: [] }>()
const share = useLocalStorage('fobrel.share', 25)
const canvas = reactive({ ...useSession().library!.canvas })
const change = computed(() =>
  canvas.width && canvas.height && share.value
    ? { change: 'fit' as const, ...canvas, share: share.value / 100 }
    : undefined,
)
const limit = computed(() => Math.round(Math.min(canvas.width, canvas.height) * share.value) / 100)
</script>

<template>
  <ReviseDialog title="Fit to canvas" :change="change" :ids="ids" @close="$emit('close')">
    <div class="line">
      Canvas
      <el-input-number
        v-model="canvas.width"
        size="small"
        :min="1"
        :max="100000"
        :controls="false"
        aria-label="Width of the canvas in px"
      />
      ×
      <el-input-number
        v-model="canvas.height"
        size="small"
        :min="1"
        :max="100000"
        :controls="false"
        aria-label="Height of the canvas in px"
      />
      px, no brush larger than
      <el-input-number
        v-model="share"
        size="small"
        :min="1"
        :max="100"
        :controls="false"
        aria-label="Share of the short side in %"
      />
      % of the short side: <b>{{ limit }} px</b>
    </div>
  </ReviseDialog>
</template>

<style scoped>
.el-input-number {
  width: 70px;
}
</style>
