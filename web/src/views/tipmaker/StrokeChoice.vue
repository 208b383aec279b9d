<script setup lang="ts">
import { computed } from 'vue'
import { api, of } from '../../api/client'
import KindStrip from './KindStrip.vue'
import { useShown } from './useLooked'
import type { Kind, Wish } from './useWish'
import { onTipWork, type Looked } from './useTipWork'
import SliderLine from './SliderLine.vue'

/** The stroke as it would be: the two or three kinds that suit the mark, to choose from; or the grain, tiled. */
const props = defineProps<{ looked?: Looked; wish: Wish }>()
const emit = defineEmits<{ kind: [kind: Kind] }>()
const { work, state, making, set } = onTipWork()
const kinds = computed(() => {
  const guessed = props.looked?.kinds ?? []
  return guessed.includes(props.wish.kind) ? guessed : [props.wish.kind, ...guessed].slice(0, 3)
})
const others = computed(() => (making.value?.kinds ?? []).filter(({ name }) => !kinds.value.includes(name)))
const grain = computed(() => state.value!.grain!)
const { src, behind } = useShown(
  () => (props.wish.as === 'grain' && work.value ? { id: work.value.id, state: state.value!, twin: false } : undefined),
  async ({ id, ...body }) =>
    (await of(
      api.POST('/api/works/{id}/grain', { params: { path: { id } }, parseAs: 'blob', body }),
    )) as unknown as Blob,
)
</script>

<template>
  <section class="strokes" aria-label="The stroke">
    <template v-if="wish.as === 'grain'">
      <div
        class="tiled"
        role="img"
        aria-label="The grain, three by three"
        :data-behind="behind"
        :style="{ backgroundImage: src ? `url(${src})` : undefined }"
      />
      <div class="grain">
        <div class="options">
          <button type="button" :aria-pressed="grain.way === 'blend'" @click="set('grain', { way: 'blend' })">
            Blend edges
          </button>
          <button type="button" :aria-pressed="grain.way === 'quilt'" @click="set('grain', { way: 'quilt' })">
            Patchwork
          </button>
          <button type="button" :aria-pressed="grain.even" @click="set('grain', { even: !grain.even })">
            Even out light
          </button>
          <button type="button" :aria-pressed="grain.invert" @click="set('grain', { invert: !grain.invert })">
            Invert
          </button>
        </div>
        <SliderLine
          word="Contrast"
          :value="grain.contrast ?? 1"
          :most="3"
          percent
          @set="set('grain', { contrast: $event }, 'contrast')"
        />
        <p class="soft small">Tiled three by three. Black paints.</p>
      </div>
    </template>
    <template v-else>
      <KindStrip
        v-for="kind in kinds"
        :key="kind"
        :kind="kind"
        :wish="wish"
        :ready="!!looked"
        @click="emit('kind', kind)"
      />
      <div v-if="others.length" class="others small">
        <button v-for="one in others" :key="one.name" class="plain" @click="emit('kind', one.name)">
          {{ one.word }}
        </button>
      </div>
    </template>
  </section>
</template>

<style scoped>
.strokes {
  display: flex;
  gap: 10px;
  padding: 4px 16px 10px;
  min-height: 0;
  overflow: hidden;
}
.others {
  display: grid;
  align-content: center;
  gap: 3px;
}
.tiled {
  flex: 1;
  min-height: 130px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background-size: 33.4% auto;
  background-color: #fff;
}
.grain {
  flex: 1;
  display: grid;
  gap: 8px;
  align-content: start;
}
.grain p {
  margin: 0;
}
</style>
