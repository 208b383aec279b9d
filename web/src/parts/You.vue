<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import { useDeed } from './useDeed'
import { moment } from './when'

/** A person about themselves: name, password, and where they are signed in. */
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const toast = useToast()
const me = ref<components['schemas']['Me']>()
const name = ref('')
const now = ref('')
const password = ref('')
/** Whether tokens of programs end with the old password. */
const endTokens = ref(false)
function take(got: components['schemas']['Me']) {
  me.value = got
  name.value = got.name
}
onMounted(() => toast.attempt(async () => take(await of(api.GET('/api/me')))))

const { problem: unnamed, go: rename } = useDeed(async () => {
  take(await of(api.PUT('/api/me', { body: { name: name.value } })))
  await session.load()
  toast.done('Name changed.')
})
const {
  busy,
  problem,
  go: change,
} = useDeed(async () => {
  const body = { now: now.value, password: password.value, tokens: endTokens.value }
  take(await of(api.PUT('/api/me/password', { body })))
  now.value = password.value = ''
  endTokens.value = false
  toast.done('Password changed. You’ve been signed out everywhere else.')
})
const endAll = () => toast.attempt(async () => take(await of(api.DELETE('/api/me/sessions'))))
const end = (item: number) =>
  toast.attempt(async () => take(await of(api.DELETE('/api/me/sessions/{item}', { params: { path: { item } } }))))
</script>

<template>
  <el-dialog model-value title="You" width="560px" @close="emit('close')">
    <template v-if="me">
      <form class="line" @submit.prevent="rename">
        <label class="grow">Display name<el-input v-model="name" maxlength="60" /></label
        ><el-button native-type="submit" :disabled="!name.trim() || name === me.name">Change</el-button>
      </form>
      <p class="soft">You sign in as {{ me.login }}.</p>
      <p v-if="unnamed" class="problem" role="alert">{{ unnamed }}</p>
      <h3>Password</h3>
      <form @submit.prevent="change">
        <input type="text" name="login" :value="me.login" autocomplete="username" hidden />
        <div class="line">
          <label class="grow"
            >Now<el-input v-model="now" type="password" autocomplete="current-password" show-password
          /></label>
          <label class="grow"
            >New<el-input v-model="password" type="password" autocomplete="new-password" show-password maxlength="72"
          /></label>
          <el-button native-type="submit" :disabled="!now || !password" :loading="busy">Change password</el-button>
        </div>
        <el-checkbox v-model="endTokens" label="End my tokens too" />
      </form>
      <p class="soft small">At least 10 characters; four words are easy to remember.</p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <h3>Where you are signed in</h3>
      <div v-for="one in me.sessions" :key="one.id" class="line one">
        <b>{{ one.from }}</b><span class="soft">since {{ moment(one.at) }}, last seen {{ moment(one.seen_at) }}</span
        ><span class="grow" /><span v-if="one.here" class="soft">here</span
        ><button v-else class="plain" @click="end(one.id)">Sign out</button>
      </div>
      <el-button v-if="me.sessions.length > 1" @click="endAll">Sign out everywhere else</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
form > .el-checkbox {
  display: inline-flex;
  margin-top: 6px;
}
.line {
  align-items: end;
}
label {
  display: grid;
  gap: 3px;
}
h3 {
  margin: 18px 0 6px;
}
p {
  margin: 6px 0;
}
.problem {
  color: var(--madder);
}
.one {
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
  white-space: nowrap;
}
.one b {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
