<script setup lang="ts">
import { ref } from 'vue'
import { signedOut } from '../api/connection'
import { useSession } from '../stores/session'
import { useDeed } from './useDeed'

/** Asks for the password over the page when the session has ended; what was asked meanwhile waits behind it. */
const session = useSession()
const password = ref('')
const {
  busy,
  problem,
  go: enter,
} = useDeed(async () => {
  await session.signInAgain(password.value)
  password.value = ''
})
const leave = () => window.location.assign('/')
</script>

<template>
  <el-dialog
    v-if="signedOut"
    model-value
    title="Sign in again"
    width="400px"
    :close-on-click-modal="false"
    :close-on-press-escape="false"
    :show-close="false"
  >
    <form @submit.prevent="enter">
      <p v-if="signedOut.insteadOf">
        {{ signedOut.insteadOf }} is signed in here now. This page still shows the work of {{ session.person?.name }}.
      </p>
      <p v-else>Your session has ended. Your work is still here; sign in to continue.</p>
      <label
        >Password of {{ session.person?.name
        }}<el-input v-model="password" v-focus type="password" autocomplete="current-password" name="password-again"
      /></label>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <div class="line end">
        <button type="button" class="plain" @click="leave">Leave this page</button><span class="grow" /><el-button
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="!password"
          >Sign in</el-button
        >
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
.problem {
  color: var(--madder);
  background: var(--madder-wash);
  padding: 8px 10px;
  border-radius: 7px;
}
</style>
