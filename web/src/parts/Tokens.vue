<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import { day } from './when'

/** A person's tokens: each lets a program act for them, until it is taken back. */
const emit = defineEmits<{ close: [] }>()
const toast = useToast()
const tokens = ref<components['schemas']['Token'][]>([])
const name = ref('')
const scope = ref<'read' | 'write'>('write')
const limit = ref<number | ''>('')
const days = ref<number | ''>('')
const session = useSession()
const fresh = ref('')
const field = ref<{ focus: () => void }>()
const load = async () => {
  tokens.value = (await of(api.GET('/api/tokens'))).tokens
}
onMounted(() => toast.attempt(load))

const wish = () => ({
  name: name.value,
  scope: scope.value,
  library: limit.value || null,
  days: days.value || null,
})
const ends = (one: components['schemas']['Token']) => (one.ends_at ? `, ends ${day(one.ends_at)}` : '')
const reach = (one: components['schemas']['Token']) =>
  [one.scope === 'read' ? 'reads' : 'all you may', one.limit].filter(Boolean).join(', ')
const make = () =>
  toast.attempt(async () => {
    fresh.value = (await of(api.POST('/api/tokens', { body: wish() }))).token
    name.value = ''
    await load()
  })
const drop = (id: number) =>
  toast.attempt(async () => {
    await of(api.DELETE('/api/tokens/{id}', { params: { path: { id } } }))
    await load()
    toast.done('The token is taken back. Programs that used it are shut out.')
  })
</script>

<template>
  <el-dialog model-value title="Tokens for programs" width="640px" @close="emit('close')" @opened="field?.focus()">
    <p class="soft">
      The command line (<code>fobrel import</code>, <code>export</code> …) acts for you with a token:
      <code>export FOBREL_TOKEN=…</code>
    </p>
    <p v-if="fresh" class="fresh" role="status">
      This is shown only now. Copy it:<br /><code>{{ fresh }}</code>
    </p>
    <div v-for="one in tokens" :key="one.id" class="line one">
      <b>{{ one.name }}</b><span class="soft"
        >{{ reach(one) }}; made {{ day(one.at) }}, used {{ day(one.used_at, 'never') }}{{ ends(one) }}</span
      ><span class="grow" /><button class="plain" :aria-label="`Take back ${one.name}`" @click="drop(one.id)">
        take back
      </button>
    </div>
    <form class="line" @submit.prevent="make">
      <el-input
        ref="field"
        v-model="name"
        placeholder="What it is for, such as: nightly backup"
        aria-label="What the token is for"
        maxlength="60"
      />
      <select v-model="scope" aria-label="What it may">
        <option value="write">all you may</option>
        <option value="read">only read</option>
      </select>
      <select v-model="limit" aria-label="Where it counts">
        <option value="">all libraries</option>
        <option v-for="one in session.libraries" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <select v-model="days" aria-label="How long it counts">
        <option value="">for ever</option>
        <option :value="30">30 days</option>
        <option :value="365">a year</option>
      </select>
      <el-button native-type="submit" :disabled="!name.trim()">Make a token</el-button>
    </form>
  </el-dialog>
</template>

<style scoped>
.one {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.fresh {
  padding: 8px 12px;
  border-radius: 7px;
  background: var(--accent-wash);
  overflow-wrap: anywhere;
}
form {
  margin-top: 12px;
  flex-wrap: wrap;
}
form .el-input {
  flex: 1 0 240px;
}
select {
  max-width: 150px;
}
</style>
