<script setup lang="ts" generic="T extends string">
/** The grounds that a stroke can be looked at on, each a small swatch; '' is the one that suits the brush. */
defineProps<{ grounds: readonly T[]; label: string }>()
const chosen = defineModel<T>({ required: true })
const called = (one: string) => (one ? `${one} ground` : 'the ground that suits the brush')
</script>

<template>
  <span class="line grounds" role="group" :aria-label="label">
    <button
      v-for="one in grounds"
      :key="one"
      type="button"
      class="ground"
      :class="[one || 'own', { on: chosen === one }]"
      :aria-pressed="chosen === one"
      :title="called(one)"
      :aria-label="called(one)"
      @click="chosen = one"
    />
  </span>
</template>

<style scoped>
.grounds {
  gap: 3px;
}
.ground {
  width: 15px;
  height: 15px;
  padding: 0;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  cursor: pointer;
  background: #fff;
}
.ground.on {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.ground.grey {
  background: #808080;
}
.ground.black {
  background: #000;
}
.ground.painted {
  background: linear-gradient(90deg, #fff 20%, #0f6b6b 20% 40%, #fff 40% 60%, #b4701f 60% 80%, #fff 80%);
}
.ground.own {
  background: linear-gradient(135deg, #fff 50%, var(--line-strong) 50%);
}
</style>
