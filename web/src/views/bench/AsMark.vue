<script setup lang="ts">
import { useRouter } from 'vue-router'
import { useArrival } from '../../stores/arrival'
import { onBench } from './useBench'
import type { Wanted } from './usePadPicture'

/** Takes what lies on the pad, on white whatever its ground, to the tip maker as a page. */
const props = defineProps<{ wanted?: Wanted; painted: (wanted: Wanted) => Promise<Blob> }>()
const bench = onBench()
const router = useRouter()
const arrival = useArrival()
const take = () =>
  bench.toast.attempt(async () => {
    const png = await props.painted({ ...props.wanted!, ground: 'white' })
    const name = `${bench.document.value!.name}, painted.png`
    arrival.pictures = [new File([png], name, { type: 'image/png' })]
    await router.push({ name: 'tip-maker' })
  })
</script>

<template>
  <button
    v-if="bench.session.mayEdit"
    class="plain"
    :disabled="!wanted"
    title="Make a mark of what lies here, in the tip maker"
    @click="take"
  >
    as a mark
  </button>
</template>
