<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useImport } from '../../stores/import'
import PictureDialog from './picture/PictureDialog.vue'
import { onPad } from './onPad'
import type { Wanted } from './usePadPicture'

/** What lies on the pad goes on: to the tip maker as a page, or beside the strip as the brush's picture. */
const props = defineProps<{ wanted?: Wanted; painted: (wanted: Wanted) => Promise<Blob> }>()
const pad = onPad()
const router = useRouter()
const incoming = useImport()
const picture = ref<Blob>()
/** A mark lies on white, whatever the pad's ground. */
const asMark = () =>
  pad.toast.attempt(async () => {
    const png = await props.painted({ ...props.wanted!, ground: 'white' })
    const name = `${pad.document.value!.name}, painted.png`
    incoming.pictures = [new File([png], name, { type: 'image/png' })]
    await router.push({ name: 'tip-maker' })
  })
const asPicture = () => pad.toast.attempt(async () => (picture.value = await props.painted(props.wanted!)))
</script>

<template>
  <template v-if="pad.session.mayEdit">
    <button
      class="plain"
      :disabled="!wanted"
      title="Turn what is on the pad into a tip in the Tip maker"
      @click="asMark"
    >
      Use as tip
    </button>
    <button
      v-if="pad.id"
      class="plain"
      :disabled="!wanted"
      title="Use what is on the pad as the brush’s preview picture"
      @click="asPicture"
    >
      Use as preview
    </button>
    <PictureDialog v-if="picture" :painted="picture" @close="picture = undefined" />
  </template>
</template>
