<script setup lang="ts">
/** The ground and the card of whatever stands before the studio: signing in, an invitation, a first person. */
defineEmits<{ submit: [] }>()
</script>

<template>
  <div class="ground">
    <svg class="stroke" viewBox="0 0 900 300" aria-hidden="true">
      <path d="M20 190c150-150 330-160 460-70 120 82 250 60 400-70-90 150-240 240-400 190C330 190 190 130 20 190z" />
    </svg>
    <form @submit.prevent="$emit('submit')">
      <h1>fobrel</h1>
      <slot />
    </form>
  </div>
</template>

<style scoped>
.ground {
  position: relative;
  height: 100%;
  display: grid;
  place-items: center;
  overflow: auto;
}
.stroke {
  position: absolute;
  width: 100%;
  fill: var(--accent-wash);
}
form {
  position: relative;
  width: 350px;
  display: grid;
  gap: 14px;
  padding: 28px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 12px;
}
h1 {
  font-size: 28px;
  font-weight: 800;
  letter-spacing: -1px;
}
form :deep(p) {
  margin: 0;
}
form :deep(label) {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
form :deep(.problem) {
  color: var(--madder);
  background: var(--madder-wash);
  padding: 8px 10px;
  border-radius: 7px;
}
</style>
