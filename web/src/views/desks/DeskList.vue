<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of, type Desk } from '../../api/client'
import { atDesk } from './useDesk'
import OwnWord from '../../parts/OwnWord.vue'

/** Templates, one below the other, and desks by their rooms, each with its state in a word. */
const props = defineProps<{ chosen?: number }>()
const { library, toast, fixed } = atDesk()
const router = useRouter()
const name = ref('')
const kind = ref<'desk' | 'template'>('desk')
const from = ref<number | null>(null)
const templates = computed(() => library.desks.filter(({ template }) => template))
const depth = (one: Desk): number => {
  const above = templates.value.find(({ id }) => id === one.parent_id)
  return above ? depth(above) + 1 : 0
}
const branch = (parent: number | null): Desk[] =>
  templates.value.filter(({ parent_id }) => parent_id === parent).flatMap((one) => [one, ...branch(one.id)])
const rooms = computed(() => {
  const desks = library.desks.filter(({ template }) => !template)
  return [...new Set(desks.map(({ room }) => room))]
    .sort()
    .map((room) => ({ room, desks: desks.filter((one) => one.room === room) }))
})
const tone: Record<string, string> = {
  'out of date': 'changed',
  'changed on the desk': 'missing',
  unreachable: 'missing',
  current: 'good',
}
const choose = (id: number) => router.push({ query: { desk: id } })
const make = () =>
  toast.attempt(async () => {
    const body = { name: name.value, template: kind.value === 'template', parent_id: from.value }
    const made = await of(api.POST('/api/libraries/{library}/desks', { ...library.path(), body }))
    name.value = ''
    await library.load()
    await choose(made.id)
    toast.done(`${made.name} is a ${kind.value} now. Give it a start-up plan.`)
  })
void props
</script>

<template>
  <aside class="list" aria-label="Desks">
    <h1>Desks</h1>
    <template v-if="templates.length">
      <h2><OwnWord word="desk template">Templates</OwnWord></h2>
      <button
        v-for="one in branch(null)"
        :key="one.id"
        class="choice"
        :class="{ on: one.id === chosen }"
        :style="{ paddingLeft: `${10 + 14 * depth(one)}px` }"
        :aria-pressed="one.id === chosen"
        @click="choose(one.id)"
      >
        <span>{{ one.name }}</span><span class="small soft">{{ one.count }}</span>
      </button>
    </template>
    <template v-for="{ room, desks } in rooms" :key="room">
      <h2>{{ room || 'Desks' }}</h2>
      <button
        v-for="one in desks"
        :key="one.id"
        class="choice"
        :class="{ on: one.id === chosen }"
        :aria-pressed="one.id === chosen"
        @click="choose(one.id)"
      >
        <span>{{ one.name }}</span><span class="small" :class="tone[one.state] ?? 'soft'" :title="one.said">{{
          one.state
        }}</span>
      </button>
    </template>
    <form v-if="!fixed" @submit.prevent="make">
      <div class="line small">
        <el-radio-group v-model="kind">
          <el-radio value="desk">Desk</el-radio>
          <el-radio value="template">Template</el-radio>
        </el-radio-group>
      </div>
      <el-input
        v-model="name"
        :placeholder="`Name of a new ${kind}`"
        :aria-label="`Name of a new ${kind}`"
        maxlength="60"
      />
      <el-select
        v-if="templates.length"
        :model-value="from ?? 0"
        aria-label="Template"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
        @update:model-value="from = $event || null"
      >
        <el-option :value="0" label="No template" />
        <el-option v-for="one in templates" :key="one.id" :value="one.id" :label="`Based on ${one.name}`" />
      </el-select>
      <el-button native-type="submit" :disabled="!name.trim()">Add</el-button>
    </form>
  </aside>
</template>

<style scoped>
.list {
  padding: 12px 10px;
  border-right: 1px solid var(--line);
  overflow: auto;
}
h2 {
  font-size: 12px;
  margin: 12px 0 2px;
  color: var(--soft);
  font-size: 12px;
}
.choice.on {
  font-weight: 700;
}
.good {
  color: var(--accent);
}
form {
  display: grid;
  gap: 6px;
  margin-top: 16px;
}
</style>
