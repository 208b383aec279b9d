<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import type { components } from '../../api/schema'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'

/** What a release would meet, and the canvas that sizes are compared with. */
defineProps<{ flight: components['schemas']['Preflight']; stops: number; same: boolean }>()
const emit = defineEmits<{ check: [] }>()
const session = useSession()
const toast = useToast()
const router = useRouter()
const SHOWN = 40
const canvas = ref<{ width: number; height: number }>()
const saveCanvas = () =>
  toast.attempt(async () => {
    await session.paintOn(canvas.value!)
    canvas.value = undefined
    emit('check')
  })
/** Where a finding can be mended. */
const jump = (key: number, kind: string) =>
  router.push(kind === 'hidden' ? { name: 'hidden' } : { name: 'bench', params: { id: key } })
</script>

<template>
  <section class="flight" aria-label="Preflight">
    <div class="line">
      <h2>Preflight</h2>
      <span v-if="stops" class="missing">{{ stops }} to fix before release</span
      ><span v-else-if="!same" class="soft"
        >ready: the {{ flight.last ? 'next' : 'first' }} release is {{ flight.number
        }}{{ flight.last ? `, a ${flight.level} change` : '' }}</span
      ><span v-else class="soft">no changes since release {{ flight.last }}</span
      ><span class="grow" />
      <form v-if="canvas" class="line canvas" @submit.prevent="saveCanvas" @keydown.esc="canvas = undefined">
        canvas<el-input-number
          v-model="canvas.width"
          size="small"
          :min="1"
          :max="100000"
          :precision="0"
          :controls="false"
          aria-label="Width of the studio’s canvas in px"
        />×<el-input-number
          v-model="canvas.height"
          size="small"
          :min="1"
          :max="100000"
          :precision="0"
          :controls="false"
          aria-label="Height of the studio’s canvas in px"
        /><el-button size="small" native-type="submit" :disabled="!canvas.width || !canvas.height">Save</el-button>
      </form>
      <button
        v-else-if="session.maySend"
        class="plain"
        title="Canvas that sizes are checked against"
        @click="canvas = { ...session.library!.canvas }"
      >
        Canvas {{ session.library!.canvas.width }} × {{ session.library!.canvas.height }} px
      </button>
      <span v-else class="soft"
        >canvas {{ session.library!.canvas.width }} × {{ session.library!.canvas.height }} px</span
      >
    </div>
    <div
      v-for="(one, index) in flight.findings.slice(0, SHOWN)"
      :key="index"
      class="finding"
      :class="{ stops: one.stops }"
    >
      <span class="kind" :class="one.stops ? 'missing' : 'changed'">{{ one.kind }}</span><span>{{ one.sentence }}</span
      ><button v-if="one.key !== null" class="plain small" @click="jump(one.key, one.kind)">Show</button>
    </div>
    <p v-if="!flight.findings.length" class="soft">All clear.</p>
  </section>
</template>

<style scoped>
.flight {
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--card);
  padding: 8px 12px;
  margin-bottom: 10px;
  max-height: 190px;
  overflow: auto;
}
h2 {
  margin-bottom: 4px;
}
.finding {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 3px 0;
  border-top: 1px solid var(--line);
}
.kind {
  justify-self: start;
}
.flight p {
  margin: 4px 0;
}
.canvas {
  flex: none;
  gap: 5px;
}
.canvas .el-input-number {
  width: 66px;
}
.line:first-child > .soft {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line:first-child > button {
  flex: none;
}
</style>
