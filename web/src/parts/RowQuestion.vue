<script setup lang="ts">
import { ref } from 'vue'

/** A word asked for in a row of an order made by hand: the name of a section, or the place to move to. */
const props = defineProps<{ what: 'section' | 'place'; word: string; place: number; last: number }>()
defineEmits<{ name: [word: string]; settle: [to: number]; close: [] }>()
const word = ref(props.word)
const place = ref(props.place)
</script>

<template>
  <form
    v-if="what === 'section'"
    class="line"
    @submit.prevent="$emit('name', word.trim())"
    @keydown.esc.stop="$emit('close')"
  >
    <el-input
      v-model="word"
      v-focus
      size="small"
      placeholder="Name of the section; empty ends it"
      aria-label="Name of the section"
      maxlength="60"
    /><el-button size="small" native-type="submit">From here on</el-button
    ><button type="button" class="plain" @click="$emit('close')">Cancel</button>
  </form>
  <form v-else class="line" @submit.prevent="$emit('settle', place - 1)" @keydown.esc.stop="$emit('close')">
    <span class="soft">Move to place</span
    ><el-input-number
      v-model="place"
      v-focus
      size="small"
      :min="1"
      :max="last"
      :precision="0"
      :controls="false"
      aria-label="Move to place"
    /><el-button size="small" native-type="submit">Move</el-button>
    <button type="button" class="plain" @click="$emit('settle', 0)">To the top</button
    ><button type="button" class="plain" @click="$emit('settle', last - 1)">To the end</button
    ><button type="button" class="plain" @click="$emit('close')">Cancel</button>
  </form>
</template>

<style scoped>
form {
  padding: 3px 8px;
}
.el-input {
  width: 240px;
}
.el-input-number {
  width: 70px;
}
</style>
