<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'

/** A brush's name; one click on it renames the brush, for everybody. */
const props = defineProps<{ id: number; name: string; first?: () => Promise<unknown> }>()
const emit = defineEmits<{ renamed: [] }>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const typed = ref<string>()
const field = ref<HTMLInputElement>()

async function begin() {
  typed.value = props.name
  await nextTick()
  field.value?.select()
}
let busy = false
/** A name that is not possible stays in the field, to be put right. */
async function rename() {
  const name = typed.value?.trim()
  if (busy || typed.value === undefined) return
  if (!name || name === props.name) return (typed.value = undefined)
  busy = true
  await props.first?.()
  const well = await toast.recorded(async () => {
    const { entry } = await of(
      api.POST('/api/libraries/{library}/renames', {
        ...library.path(),
        body: { preset_ids: [props.id], rules: { name } },
      }),
    )
    return { entry: entry! }
  })
  busy = false
  if (!well) return field.value?.focus()
  typed.value = undefined
  emit('renamed')
}
/** Leaving the field takes over what can be; what was refused already is given up. */
let refused: string | undefined
async function leave() {
  if (busy || typed.value === undefined) return
  if (typed.value === refused) return (typed.value = undefined)
  refused = typed.value
  await rename()
}
defineExpose({ begin })
</script>

<template>
  <form v-if="typed !== undefined" class="naming" @submit.prevent="rename">
    <input
      ref="field"
      v-model="typed"
      aria-label="New name of the brush"
      maxlength="200"
      @keydown.esc.stop="typed = undefined"
      @blur="leave"
    />
  </form>
  <h1 v-else :title="name">
    <button v-if="session.mayEdit" class="name" :title="`Rename “${name}”`" @click="begin">{{ name }}</button>
    <template v-else>{{ name }}</template>
  </h1>
</template>

<style scoped>
h1 {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-width: 60px;
}
.name {
  font: inherit;
  color: inherit;
  letter-spacing: inherit;
  padding: 0;
  border: 0;
  background: none;
  cursor: text;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.name:hover {
  text-decoration: underline dotted;
  text-underline-offset: 4px;
}
.naming input {
  font: inherit;
  font-size: 16px;
  font-weight: 700;
  width: 240px;
  max-width: 100%;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--accent);
  border-radius: 6px;
  padding: 1px 6px;
}
</style>
