<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { renewals } from '../api/connection'
import { onScale } from './scale'

/** A preset's strip on its own ground. The picture belongs to the content: the fingerprint is its address. */
const props = defineProps<{
  fingerprint?: string
  src?: string
  shape?: 'list' | 'peek'
  label: string
  lazy?: boolean
  /** Pixels wide as shown; screens that are not sharp take a smaller picture. */
  wide?: number
  /** The greatest size it paints at, px, for strips that are shown together. */
  greatest?: number
}>()
const beside = onScale(() => props.greatest)
const scaled = computed(() => (beside.value ? `?beside=${beside.value}` : ''))
const at = (shape: string) => `/api/strips/${props.fingerprint}/${shape}.png${scaled.value}`
const both = computed(() =>
  props.src || props.shape === 'peek' ? undefined : `${at('small')} 350w, ${at('list')} 700w`,
)
const image = ref<HTMLImageElement>()
// A picture that was scrolled past is let go at once: one that has not come yet would keep those in
// sight waiting, and ten thousand of them would fill the memory.
onBeforeUnmount(() => ['srcset', 'src'].forEach((name) => image.value?.removeAttribute(name)))

// One that could not be loaded is tried again a little later, for the server may have been busy; then when
// the server, or the session, is back.
const turn = ref(0)
const failed = ref(false)
const PAUSES = [1000, 3000, 9000]
let tries = 0
let timer: ReturnType<typeof setTimeout> | undefined
watch(
  () => props.fingerprint ?? props.src,
  () => {
    tries = 0
  },
)
onBeforeUnmount(() => clearTimeout(timer))
function retry() {
  failed.value = true
  clearTimeout(timer)
  if (tries < PAUSES.length) timer = setTimeout(() => turn.value++, PAUSES[tries++])
}
watch(renewals, () => {
  if (!failed.value) return
  failed.value = false
  turn.value++
})
</script>

<template>
  <span class="strip" :class="{ tall: shape === 'peek' }">
    <img
      v-if="src || fingerprint"
      ref="image"
      :key="turn"
      :srcset="both"
      :sizes="both && `${wide ?? 350}px`"
      :src="src ? `${src}${src.startsWith('/') ? scaled : ''}` : at(shape ?? 'list')"
      :alt="`The stroke of ${label}`"
      :loading="lazy ? 'lazy' : undefined"
      draggable="false"
      @error="retry"
      @load="failed = false"
    />
  </span>
</template>

<style scoped>
.strip {
  display: block;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
}
.strip {
  aspect-ratio: 700 / 120;
}
.strip.tall {
  aspect-ratio: 536 / 240;
}
img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
</style>
