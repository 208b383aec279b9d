<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import { useDeed } from '../../parts/useDeed'
import { useSession } from '../../stores/session'
import Card from './Card.vue'
import NewPerson from './NewPerson.vue'

/** The first person of a new studio; the key stands behind the # of the link, so that no server ever logs it. */
const session = useSession()
const router = useRouter()
const key = ref(location.hash.slice(1))
const login = ref('')
const name = ref('')
const password = ref('')
const library = ref('')
const ready = computed(() => [key, login, name, password, library].every(({ value }) => value.trim()))
const { busy, problem, go } = useDeed(async () => {
  const body = {
    key: key.value.trim(),
    login: login.value,
    name: name.value,
    password: password.value,
    library: library.value,
  }
  await session.enterBy(() => of(api.POST('/api/begin', { body })))
  await router.replace('/')
})
</script>

<template>
  <Card @submit="go">
    <template v-if="session.begins">
      <p class="soft">You’re the first one here. You’ll administer the studio and lead its first library.</p>
      <NewPerson v-model:login="login" v-model:name="name" v-model:password="password" />
      <label>The first library<el-input v-model="library" placeholder="Name of your project" maxlength="60" /></label>
      <label
        >Key<el-input
          v-model="key"
          placeholder="shown in the terminal where Fobrel was started"
          aria-label="Key"
          autocomplete="off"
      /></label>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <el-button type="primary" native-type="submit" :loading="busy" :disabled="!ready">Begin</el-button>
    </template>
    <template v-else>
      <p>This studio is already set up.</p>
      <el-button type="primary" @click="router.replace('/')">Open the studio</el-button>
    </template>
  </Card>
</template>
