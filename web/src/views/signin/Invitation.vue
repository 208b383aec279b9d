<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { day } from '../../parts/when'
import { useDeed } from '../../parts/useDeed'
import { useSession } from '../../stores/session'
import Card from './Card.vue'
import NewPerson from './NewPerson.vue'

/** What an invitation is for, and coming in by it: as who one is, or as somebody new. */
const session = useSession()
const route = useRoute()
const router = useRouter()
const at = { params: { path: { key: String(route.params.key) } } }
const invited = ref<components['schemas']['Invited']>()
const known = ref(false)
const login = ref('')
const name = ref('')
const password = ref('')
const ROLES: Record<string, string> = {
  guest: 'as a guest: view and download',
  artist: 'as an artist: edit its brushes',
  lead: 'as a lead',
}

const { problem: gone, go: read } = useDeed(async () => {
  invited.value = await of(api.GET('/api/invitations/{key}', at))
  name.value = invited.value.name
})
onMounted(read)

const { busy, problem, go } = useDeed(async () => {
  if (known.value) await session.signIn(login.value, password.value)
  const body = session.person || known.value ? {} : { login: login.value, name: name.value, password: password.value }
  await session.enterBy(() => of(api.POST('/api/invitations/{key}', { ...at, body })))
  const library = session.libraries.find((one) => one.name === invited.value!.library)
  await router.replace(library ? { name: 'brushes', params: { library: library.id } } : '/')
})
const ready = computed(() => !!session.person || [login, password].every(({ value }) => value.trim()))
</script>

<template>
  <Card @submit="go">
    <p v-if="gone" class="problem" role="alert">{{ gone }}</p>
    <template v-else-if="invited">
      <p>
        {{ invited.by }} invites you to <b>{{ invited.library }}</b>, {{ ROLES[invited.role] }}.
      </p>
      <p v-if="invited.description" class="soft">{{ invited.description }}</p>
      <p class="soft small">The link works once, until {{ day(invited.ends_at) }}.</p>
      <template v-if="invited.member">
        <p>You’re already a member of this library.</p>
        <el-button @click="router.replace('/')">Open the studio</el-button>
      </template>
      <template v-else>
        <p v-if="session.person">You’ll join as {{ session.person.name }}.</p>
        <template v-else-if="known">
          <label>Name<el-input v-model="login" v-focus autocomplete="username" name="login" /></label>
          <label
            >Password<el-input v-model="password" type="password" autocomplete="current-password" name="password"
          /></label>
        </template>
        <NewPerson v-else v-model:login="login" v-model:name="name" v-model:password="password" />
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <el-button type="primary" native-type="submit" :loading="busy" :disabled="!ready">Join</el-button>
        <button v-if="!session.person" type="button" class="plain" @click="known = !known">
          {{ known ? 'I’m new here' : 'I already have an account' }}
        </button>
      </template>
    </template>
  </Card>
</template>
