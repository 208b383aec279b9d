<script setup lang="ts">
/** The name and password that somebody takes. */
const login = defineModel<string>('login', { required: true })
const name = defineModel<string>('name', { required: true })
const password = defineModel<string>('password', { required: true })
</script>

<template>
  <label>Display name<el-input v-model="name" v-focus autocomplete="name" maxlength="60" /></label>
  <label>Login name<el-input v-model="login" autocomplete="username" maxlength="40" name="login" /></label>
  <label
    >Password<el-input
      v-model="password"
      type="password"
      autocomplete="new-password"
      show-password
      name="password"
      maxlength="72"
  /></label>
  <p class="soft small">At least 10 characters; four words are easy to remember. No digits or symbols required.</p>
</template>
