<script setup lang="ts">
import { reactive } from 'vue'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import SliderLine from './SliderLine.vue'
import { onTipWork, type Frame } from './useTipWork'

/** One drawing in several variants, each a step further than the one before. */
const props = defineProps<{ frame: Frame; at: number }>()
const emit = defineEmits<{ close: [] }>()
const work = onTipWork()
const own = work.state.value!.colours !== 'tint'
const steps = reactive({ turn: 0, size: 0, lighter: 0, hue: 0, mirror: false })
const wish = reactive({ count: 4 })

const { busy, problem, go } = useDeed(async () => {
  const body = { frame: props.frame, count: wish.count, steps: { ...steps } }
  const { frames } = await of(api.POST('/api/works/{id}/variants', { ...work.path(), body }))
  const next = [...work.frames.value]
  next.splice(props.at, 1, ...frames)
  work.setFrames(next)
  emit('close')
})
</script>

<template>
  <FormDialog
    title="Variants of one drawing"
    :deed="`Make ${wish.count} variants`"
    :busy="busy"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <p class="soft">They replace this frame in the reel; the first is unchanged.</p>
    <SliderLine word="Variants" :value="wish.count" :least="2" :most="24" :step="1" @set="wish.count = $event" />
    <SliderLine
      word="Turned by"
      :value="steps.turn"
      :least="-180"
      :most="180"
      :step="1"
      unit="°"
      @set="steps.turn = $event"
    />
    <SliderLine word="Smaller by" :value="steps.size" :most="0.5" percent @set="steps.size = $event" />
    <SliderLine word="Lighter by" :value="steps.lighter" :most="0.5" percent @set="steps.lighter = $event" />
    <SliderLine
      v-if="own"
      word="Hue on by"
      :value="steps.hue"
      :least="-180"
      :most="180"
      :step="1"
      unit="°"
      @set="steps.hue = $event"
    />
    <label class="line"><el-switch v-model="steps.mirror" size="small" />every second one mirrored</label>
  </FormDialog>
</template>
