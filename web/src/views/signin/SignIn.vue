<script setup lang="ts">
import { ref } from 'vue'
import { useDeed } from '../../parts/useDeed'
import { useSession } from '../../stores/session'

const session = useSession()
const login = ref('')
const password = ref('')
const { busy, problem, go: enter } = useDeed(() => session.signIn(login.value, password.value))
</script>

<template>
  <div class="ground">
    <svg class="stroke" viewBox="0 0 900 300" aria-hidden="true">
      <path d="M20 190c150-150 330-160 460-70 120 82 250 60 400-70-90 150-240 240-400 190C330 190 190 130 20 190z" />
    </svg>
    <form @submit.prevent="enter">
      <h1>fobrel</h1>
      <p class="soft">One set of brushes for the whole team, judged by the stroke.</p>
      <label>Name<el-input v-model="login" v-focus autocomplete="username" name="login" /></label>
      <label
        >Password<el-input
          v-model="password"
          type="password"
          autocomplete="current-password"
          show-password
          name="password"
      /></label>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <el-button type="primary" native-type="submit" :loading="busy">Sign in</el-button>
    </form>
  </div>
</template>

<style scoped>
.ground {
  position: relative;
  height: 100%;
  display: grid;
  place-items: center;
  overflow: hidden;
}
.stroke {
  position: absolute;
  width: 120%;
  left: -10%;
  fill: var(--accent-wash);
}
form {
  position: relative;
  width: 330px;
  display: grid;
  gap: 14px;
  padding: 28px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 12px;
}
h1 {
  font-size: 28px;
  font-weight: 800;
  letter-spacing: -1px;
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
