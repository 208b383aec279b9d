<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import { moment } from '../../parts/when'
import { useInbox } from '../../stores/inbox'
import { useToast } from '../../stores/toast'

/** What concerns me: new things stand out until this view was looked at; which kinds come is mine to say. */
const inbox = useInbox()
const toast = useToast()
const choosing = ref(false)
const wanted = ref<string[]>([])
/** Those that were new when the view was opened stay marked while it is open. */
const fresh = ref(new Set<number>())

async function look() {
  await inbox.load()
  inbox.notices.filter(({ seen }) => !seen).forEach(({ id }) => fresh.value.add(id))
  const last = inbox.notices[0]
  if (last && inbox.unseen) await inbox.see(last.id)
}
onMounted(() => toast.attempt(look))
watch(
  () => inbox.unseen,
  (count) => count && toast.attempt(look),
)
function choose() {
  wanted.value = inbox.kinds.filter((one) => one.wanted).map(({ name }) => name)
  choosing.value = true
}
const keep = () =>
  toast.attempt(async () => {
    await of(api.PUT('/api/inbox', { body: { wanted: wanted.value } }))
    await inbox.load()
    choosing.value = false
  })
const days = computed(() => {
  const groups: { day: string; notices: typeof inbox.notices }[] = []
  for (const one of inbox.notices) {
    const day = new Date(one.at).toDateString()
    if (groups.at(-1)?.day !== day) groups.push({ day, notices: [] })
    groups.at(-1)!.notices.push(one)
  }
  return groups
})
</script>

<template>
  <div class="page">
    <div class="line">
      <h1>Notifications</h1>
      <span class="soft">Proposals, replies, mentions and new releases.</span><span class="grow" />
      <el-button @click="choosing ? (choosing = false) : choose()">Choose notifications</el-button>
    </div>
    <form v-if="choosing" @submit.prevent="keep">
      <el-checkbox-group v-model="wanted"
        ><el-checkbox v-for="one in inbox.kinds" :key="one.name" :value="one.name" :label="one.title"
      /></el-checkbox-group>
      <el-button type="primary" native-type="submit">Save</el-button>
    </form>
    <p v-if="!inbox.notices.length" class="empty">No notifications yet.</p>
    <section v-for="group in days" :key="group.day">
      <div v-for="one in group.notices" :key="one.id" class="one" :class="{ fresh: fresh.has(one.id) }">
        <router-link :to="one.path">{{ one.text }}</router-link>
        <span class="soft small">{{ one.library }}, {{ moment(one.at) }}{{ fresh.has(one.id) ? ', new' : '' }}</span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.one {
  display: grid;
  padding: 8px 10px;
  border-top: 1px solid var(--line);
}
.one a {
  text-decoration: none;
  color: var(--ink);
}
.one.fresh a {
  font-weight: 700;
}
.one a:hover {
  text-decoration: underline;
}
form {
  padding: 10px 14px;
  margin: 8px 0;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 9px;
}
.el-checkbox-group {
  display: grid;
  margin-bottom: 8px;
}
</style>
