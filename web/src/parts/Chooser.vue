<script setup lang="ts" generic="T extends { id: number; name: string }">
import { ref } from 'vue'
import { useRouter } from 'vue-router'

/** A list at the left to choose one from, and to add one to; the choice stands in the address. */
const props = defineProps<{
  title: string
  list: T[]
  chosen?: number
  by: string
  adds: boolean
  add: string
  make: (name: string) => Promise<number | undefined>
}>()
const router = useRouter()
const name = ref('')

const choose = (id: number) => router.push({ query: { [props.by]: id } })

async function submit() {
  const id = await props.make(name.value)
  if (id === undefined) return
  name.value = ''
  await choose(id)
}
</script>

<template>
  <aside>
    <h1>{{ title }}</h1>
    <button
      v-for="one in list"
      :key="one.id"
      class="choice"
      :class="{ on: one.id === chosen }"
      :aria-pressed="one.id === chosen"
      @click="choose(one.id)"
    >
      <span>{{ one.name }}</span>
      <slot :one="one" />
    </button>
    <form v-if="adds" class="line" @submit.prevent="submit">
      <el-input v-model="name" :placeholder="add" :aria-label="add" maxlength="60" />
      <el-button native-type="submit" :disabled="!name.trim()">Add</el-button>
    </form>
  </aside>
</template>

<style scoped>
h1 {
  margin-bottom: 10px;
}
.choice.on {
  font-weight: 700;
}
form {
  margin-top: 12px;
  flex-wrap: wrap;
}
.el-input {
  flex: 1 1 180px;
}
</style>
