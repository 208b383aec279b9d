<script setup lang="ts">
import { computed } from 'vue'
import type { Document } from '../api/client'
import { groups, type Group } from '../views/bench/settings'
import PartPicture from './PartPicture.vue'

/** Which groups of a brush's settings are meant, with the pictures that come along. */
const props = defineProps<{ from?: Document }>()
const chosen = defineModel<Group[]>({ required: true })
const all = computed(() => [
  ...groups().slice(0, 2),
  { name: 'response' as Group, title: 'Response', help: '' },
  ...groups().slice(2),
])
/** To see rather than to count. */
const pictures = computed(() => {
  const tip = props.from?.tip?.form
  const of: Partial<Record<Group, unknown[]>> = {
    tip: [...((tip?.frames as string[]) ?? []), tip?.asset],
    grain: [props.from?.grain?.asset],
  }
  const coming = chosen.value.flatMap((group) => of[group] ?? []).filter(Boolean) as string[]
  return [...new Set(coming)].slice(0, 12)
})
</script>

<template>
  <el-checkbox-group v-model="chosen" aria-label="Groups to copy"
    ><el-checkbox v-for="{ name, title } in all" :key="name" :value="name" :label="title"
  /></el-checkbox-group>
  <p class="soft small">Tip includes the tip itself, Grain the grain.</p>
  <p v-if="pictures.length" class="line">
    <span v-for="one in pictures" :key="one" class="picture"
      ><PartPicture :reference="one" label="included" :side="64"
    /></span>
  </p>
</template>

<style scoped>
p {
  margin: 6px 0;
}
.picture {
  width: 46px;
  height: 46px;
  border: 1px solid var(--line);
  border-radius: 5px;
  overflow: hidden;
}
</style>
