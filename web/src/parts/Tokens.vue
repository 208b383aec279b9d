<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'
import { useToast } from '../stores/toast'
import { day } from './when'

/** A person's tokens: each lets a program act for them, until it is taken back. */
const emit = defineEmits<{ close: [] }>()
const toast = useToast()
const tokens = ref<components['schemas']['Token'][]>([])
const name = ref('')
const fresh = ref('')
const field = ref<{ focus: () => void }>()
const load = async () => {
  tokens.value = (await of(api.GET('/api/tokens'))).tokens
}
onMounted(() => toast.attempt(load))

const make = () =>
  toast.attempt(async () => {
    fresh.value = (await of(api.POST('/api/tokens', { body: { name: name.value } }))).token
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
  <el-dialog model-value title="Tokens for programs" width="520px" @close="emit('close')" @opened="field?.focus()">
    <p class="soft">
      The command line (<code>fobrel import</code>, <code>export</code> …) acts for you with a token:
      <code>export FOBREL_TOKEN=…</code>
    </p>
    <p v-if="fresh" class="fresh" role="status">
      This is shown only now. Copy it:<br /><code>{{ fresh }}</code>
    </p>
    <div v-for="one in tokens" :key="one.id" class="line one">
      <b>{{ one.name }}</b><span class="soft">made {{ day(one.at) }}, used {{ day(one.used_at, 'never') }}</span
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
      /><el-button native-type="submit" :disabled="!name.trim()">Make a token</el-button>
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
}
</style>
