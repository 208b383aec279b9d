<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import type { paths } from '../../api/schema'
import { onPad } from './onPad'

/** Keeps the stroke painted last among one's own sample strokes. */
type Stroke =
  paths['/api/libraries/{library}/pad']['post']['requestBody']['content']['application/json']['strokes'][number]
const props = defineProps<{ stroke?: Stroke; size: [number, number] }>()
const pad = onPad()
const naming = ref<string>()
const keepable = computed(() => (props.stroke?.samples?.length ?? 0) > 1)

async function keep() {
  const { samples, stand_in } = props.stroke!
  const [width, height] = props.size
  const done = await pad.toast.attempt(async () => {
    const body = { name: naming.value!, width, height, samples: samples!, ...(stand_in ? { stand_in } : {}) }
    const made = await of(api.POST('/api/sample-strokes', { body }))
    pad.strokesChanged.value++
    pad.trying.value.sample = made.name
    pad.toast.done(`“${made.title}” is saved as a sample stroke and shown above.`)
  })
  if (done) naming.value = undefined
}
</script>

<template>
  <button v-if="naming === undefined" class="plain" :disabled="!keepable" @click="naming = ''">
    Save as sample stroke
  </button>
  <form v-else class="line" @submit.prevent="keep">
    <el-input
      v-model="naming"
      v-focus
      size="small"
      placeholder="Name of the sample stroke"
      aria-label="Name of the sample stroke"
      maxlength="40"
    />
    <el-button size="small" native-type="submit" :disabled="!naming.trim()">Save</el-button
    ><button type="button" class="plain" @click="naming = undefined">Cancel</button>
  </form>
</template>
