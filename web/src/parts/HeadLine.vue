<script setup lang="ts">
import { Bell, CircleQuestionMark, Moon, Sun } from '@lucide/vue'
import { useToggle } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../api/client'
import { offline } from '../api/connection'
import { useNight } from '../look/night'
import { views } from '../routes'
import { useInbox } from '../stores/inbox'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import { useWork } from '../stores/work'
import SearchLine from './SearchLine.vue'

/** The line at the top of every view: the library, the search, what is under way, who is signed in. */
defineEmits<{ keys: []; tokens: []; you: []; newLibrary: [] }>()
const session = useSession()
const toast = useToast()
const work = useWork()
const inbox = useInbox()
const route = useRoute()
const router = useRouter()
const night = useNight()
const toggleNight = useToggle(night)
const searchLine = ref<InstanceType<typeof SearchLine>>()
const change = (id: number) =>
  router.push({ name: views.find(({ name }) => name === route.name)?.name ?? 'brushes', params: { library: id } })
const toOwn = () =>
  toast.attempt(async () => {
    const { id } = await of(api.POST('/api/libraries/own'))
    await session.load()
    await router.push({ name: 'brushes', params: { library: id } })
  })
/** Those in use first. */
const listed = computed(() => [...session.libraries].sort((a, b) => Number(a.archived) - Number(b.archived)))
/** What is under way, in one line. */
const working = computed(() => {
  const [first, ...rest] = work.open
  if (!first) return undefined
  const part = work.part(first)
  return {
    part,
    words: `${first.message}${first.total ? ` · ${part} %` : ''}${rest.length ? `, and ${rest.length} more` : ''}`,
  }
})
defineExpose({ search: () => searchLine.value?.focus() })
</script>

<template>
  <header>
    <span class="brand" aria-label="Fobrel">fobrel<i /></span>
    <el-select :model-value="session.libraryId" class="libraries" aria-label="Library" @update:model-value="change">
      <el-option
        v-for="one in listed"
        :key="one.id"
        :value="one.id"
        :label="one.archived ? `${one.name} (archive)` : one.name"
      />
    </el-select>
    <SearchLine ref="searchLine" />
    <router-link
      v-if="working"
      :to="{ name: 'import', params: { library: session.libraryId } }"
      class="work"
      role="status"
      ><i :style="{ width: `${working.part}%` }" />{{ working.words }}</router-link
    >
    <span v-if="offline" class="offline" role="status">Offline, reconnecting…</span>
    <button
      class="icon"
      :aria-label="night ? 'Switch to Day' : 'Switch to Night'"
      :title="night ? 'Switch to Day' : 'Switch to Night'"
      @click="toggleNight()"
    >
      <component :is="night ? Sun : Moon" :size="17" aria-hidden="true" />
    </button>
    <button class="icon" aria-label="Help" title="Help (?)" @click="$emit('keys')">
      <CircleQuestionMark :size="17" aria-hidden="true" />
    </button>
    <router-link
      :to="{ name: 'notifications', params: { library: session.libraryId } }"
      class="icon bell"
      :aria-label="inbox.unseen ? `${inbox.unseen} new notifications` : 'Notifications'"
      title="Notifications"
      ><Bell :size="17" aria-hidden="true" /><b v-if="inbox.unseen">{{ inbox.unseen }}</b></router-link
    >
    <el-dropdown trigger="click">
      <button class="who" :aria-label="`Signed in as ${session.person?.name}`">{{ session.person?.name[0] }}</button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item disabled>{{ session.person?.name }}, {{ session.library?.role }}</el-dropdown-item>
          <el-dropdown-item @click="$emit('you')">Account and sessions…</el-dropdown-item>
          <el-dropdown-item @click="$emit('tokens')">Access tokens…</el-dropdown-item>
          <el-dropdown-item @click="$emit('newLibrary')">New library…</el-dropdown-item>
          <el-dropdown-item v-if="!session.libraries.some(({ own }) => own)" @click="toOwn"
            >Create my own library</el-dropdown-item
          >
          <el-dropdown-item
            v-if="session.mayUse('owner')"
            @click="router.push({ name: 'studio', params: { library: session.libraryId } })"
            >Studio administration</el-dropdown-item
          >
          <el-dropdown-item @click="toast.attempt(session.signOut)">Sign out</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </header>
</template>

<style scoped>
.offline {
  color: var(--ochre);
  background: var(--ochre-wash);
  border-radius: 6px;
  padding: 3px 10px;
  font-weight: 600;
  font-size: 12px;
  white-space: nowrap;
}
header {
  grid-column: 1 / 3;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}
.brand {
  font-weight: 800;
  font-size: 19px;
  letter-spacing: -0.6px;
  width: 98px;
  white-space: nowrap;
}
.brand i {
  display: inline-block;
  width: 24px;
  height: 7px;
  margin-left: 4px;
  border-radius: 7px 2px 9px 1px;
  background: var(--accent);
  transform: rotate(-8deg);
  vertical-align: 2px;
}
.libraries {
  width: 190px;
  flex: none;
}
.work {
  position: relative;
  overflow: hidden;
  max-width: 240px;
  padding: 3px 10px;
  border-radius: 6px;
  background: var(--accent-wash);
  color: var(--accent);
  font-weight: 600;
  font-size: 12px;
  text-decoration: none;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.work i {
  position: absolute;
  left: 0;
  bottom: 0;
  height: 3px;
  background: var(--accent);
  transition: width 0.3s;
}
.icon {
  position: relative;
  display: grid;
  flex: none;
  place-items: center;
  width: 28px;
  height: 28px;
  padding: 0;
  border: 0;
  border-radius: 6px;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.icon:hover {
  background: var(--paper);
}
.bell b {
  position: absolute;
  top: -3px;
  right: -3px;
  min-width: 15px;
  padding: 0 3px;
  border-radius: 8px;
  background: var(--ochre);
  color: var(--card);
  font-size: 10.5px;
  line-height: 15px;
  text-align: center;
}
.who {
  width: 28px;
  height: 28px;
  border: 0;
  border-radius: 50%;
  background: var(--accent);
  color: var(--on-accent);
  font: inherit;
  font-weight: 700;
  cursor: pointer;
}
@media (max-width: 820px) {
  header {
    grid-column: 1;
    flex-wrap: wrap;
    gap: 6px 10px;
    padding: 6px 12px;
  }
  .libraries {
    width: 150px;
  }
}
</style>
