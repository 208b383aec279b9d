<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import { day } from './when'

/** A person's tokens: each lets a program act for them, until it is revoked. */
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
  [one.scope === 'read' ? 'reads' : 'everything you can do', one.limit].filter(Boolean).join(', ')
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
    toast.done('Token revoked. Programs that used it no longer have access.')
  })
</script>

<template>
  <el-dialog model-value title="Access tokens" width="640px" @close="emit('close')" @opened="field?.focus()">
    <p class="soft">
      The command line (<code>fobrel import</code>, <code>export</code> …) acts for you with a token:
      <code>export FOBREL_TOKEN=…</code>
    </p>
    <p v-if="fresh" class="fresh" role="status">
      Copy it now; it won’t be shown again:<br /><code>{{ fresh }}</code>
    </p>
    <div v-for="one in tokens" :key="one.id" class="line one">
      <b>{{ one.name }}</b><span class="soft"
        >{{ reach(one) }}; made {{ day(one.at) }}, used {{ day(one.used_at, 'never') }}{{ ends(one) }}</span
      ><span class="grow" /><button class="plain" :aria-label="`Revoke ${one.name}`" @click="drop(one.id)">
        Revoke
      </button>
    </div>
    <form class="line" @submit.prevent="make">
      <el-input
        ref="field"
        v-model="name"
        placeholder="Purpose, e.g. nightly backup"
        aria-label="What the token is for"
        maxlength="60"
      />
      <el-select
        v-model="scope"
        aria-label="What it can do"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
      >
        <el-option value="write" label="Everything you can do" />
        <el-option value="read" label="Read only" />
      </el-select>
      <el-select
        v-model="limit"
        aria-label="Where it applies"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
      >
        <el-option value="" label="All libraries" />
        <el-option v-for="one in session.libraries" :key="one.id" :value="one.id" :label="one.name" />
      </el-select>
      <el-select
        v-model="days"
        aria-label="How long it lasts"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
      >
        <el-option value="" label="No limit" />
        <el-option :value="30" label="30 days" />
        <el-option :value="365" label="A year" />
      </el-select>
      <el-button native-type="submit" :disabled="!name.trim()">Create token</el-button>
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
.inline-select {
  max-width: 150px;
}
</style>
