<script setup lang="ts">
import { computed } from 'vue'
import { api, of } from '../../api/client'
import { useShown } from './useLooked'
import { onTipWork } from './useTipWork'
import type { Kind, Wish } from './useWish'

/** One kind of brush that the mark may become, as its stroke. */
const props = defineProps<{ kind: Kind; wish: Wish; ready: boolean }>()
const { work, state, making } = onTipWork()
const on = computed(() => props.wish.kind === props.kind)
const word = computed(() => making.value?.kinds.find(({ name }) => name === props.kind)?.word)
/** Only the one that is chosen follows size and spacing; the others are as they begin. */
const own = computed(() => {
  if (!on.value) return {}
  const { size, spacing, colour, opacity, first, last } = props.wish
  return { size, spacing, colour, opacity, ...(props.kind === 'ribbon' ? { first, last } : {}) }
})
const { src, behind } = useShown(
  () =>
    work.value && props.ready ? { id: work.value.id, state: state.value!, kind: props.kind, ...own.value } : undefined,
  async ({ id, ...body }) =>
    (await of(
      api.POST('/api/works/{id}/strip', { params: { path: { id } }, parseAs: 'blob', body }),
    )) as unknown as Blob,
)
/** White paint is seen on grey, and so is a texture, as painters try one. */
const grey = computed(() => props.kind === 'texture' || (on.value && props.wish.colour === '#ffffff'))
</script>

<template>
  <button type="button" class="kind" :aria-pressed="on" :aria-label="`As ${word}`">
    <span class="stroke" :class="{ grey }"
      ><img
        v-if="src"
        :src="src"
        :alt="`Its stroke, ${word}`"
        :data-behind="behind"
        data-test="stroke"
        draggable="false"
    /></span>
    <span class="word">{{ word }}</span>
  </button>
</template>

<style scoped>
.kind {
  flex: 1 1 0;
  min-width: 0;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  padding: 0;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  cursor: pointer;
}
.kind[aria-pressed='true'] {
  flex-grow: 1.7;
}
.stroke {
  display: grid;
  place-items: center;
  min-height: 0;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
}
.kind[aria-pressed='true'] .stroke {
  outline: 2px solid var(--accent);
  outline-offset: -1px;
}
.stroke.grey {
  background: #808080;
}
img {
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.word {
  font-weight: 600;
  padding-top: 2px;
}
</style>
