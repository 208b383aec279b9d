<script setup lang="ts">
/** A tag: its word, with a colour and a shape of its own. */
import type { Tag } from '../api/client'
defineProps<{
  tag: Pick<Tag, 'name' | 'colour' | 'shape'>
  /** A status stands in a frame, so that it is not taken for a tag. */ state?: boolean
}>()
</script>

<template>
  <span class="tag" :class="{ state }" :title="tag.name"
    ><i :class="tag.shape" :style="{ background: `var(--tag-${tag.colour})` }" /><span>{{ tag.name }}</span></span
  >
</template>

<style scoped>
.tag {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  white-space: nowrap;
  min-width: 0;
  max-width: 100%;
}
.state {
  border: 1px solid var(--line-strong);
  border-radius: 9px;
  padding: 0 7px;
  font-size: 11.5px;
}
.tag span {
  overflow: hidden;
  text-overflow: ellipsis;
}
i {
  width: 9px;
  height: 9px;
  flex: none;
  border-radius: 2px;
}
.round {
  border-radius: 50%;
}
.leaf {
  border-radius: 0 70%;
}
.drop {
  border-radius: 0 60% 60% 60%;
  transform: rotate(45deg);
}
.bar {
  width: 5px;
  height: 11px;
}
.ring {
  border-radius: 50%;
  mask: radial-gradient(circle, transparent 2px, #000 2.5px);
}
</style>
