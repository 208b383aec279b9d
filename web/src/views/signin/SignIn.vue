<script setup lang="ts">
import { ref } from 'vue'
import { useDeed } from '../../parts/useDeed'
import { useSession } from '../../stores/session'
import Card from './Card.vue'

const session = useSession()
const login = ref('')
const password = ref('')
const { busy, problem, go: enter } = useDeed(() => session.signIn(login.value, password.value))
</script>

<template>
  <Card @submit="enter">
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
    <p v-if="session.begins" class="soft">
      Nobody has joined yet. Use the link shown in the terminal where Fobrel was started.
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <el-button type="primary" native-type="submit" :loading="busy">Sign in</el-button>
  </Card>
</template>
