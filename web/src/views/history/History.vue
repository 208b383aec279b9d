<script setup lang="ts">
import DayField from '../../parts/DayField.vue'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useDebounceFn } from '@vueuse/core'
import { api, of, type Entry } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import HistoryRow from './HistoryRow.vue'

/** Who did what, from where and when: searched, page by page to the first entry, and as a file. */
const library = useLibrary()
const session = useSession()
const toast = useToast()
const route = useRoute()
const router = useRouter()

const asked = reactive({ q: '', kind: '', via: '', person: 0, from: '', till: '' })
/** One thing that is asked about by the address, and what it is called here. */
const ABOUT = { preset: 'one brush', import: 'one import', release: 'one release', desk: 'one desk' } as const
const about = computed(() => {
  for (const name of Object.keys(ABOUT) as (keyof typeof ABOUT)[]) {
    const id = Number(route.query[name])
    if (id) return { name, id, called: (name === 'preset' && library.byId.get(id)?.name) || ABOUT[name] }
  }
  return undefined
})
const entries = ref<Entry[]>()
const more = ref(false)
const busy = ref(false)
const known = ref<{ kinds: string[]; ways: string[]; people: { id: number; name: string }[] }>()
let turn = 0

/** What was filled in, and nothing else. */
const query = computed(() => ({
  ...(asked.q.trim() && { q: asked.q.trim() }),
  ...(asked.kind && { kind: asked.kind }),
  ...(asked.via && { via: asked.via as 'page' }),
  ...(asked.person && { person: asked.person }),
  ...(asked.from && { from: asked.from }),
  ...(asked.till && { till: asked.till }),
  ...(about.value && { [about.value.name]: about.value.id }),
}))
const filtered = computed(() => Object.keys(query.value).length > 0)
const file = (as: 'csv' | 'jsonl') =>
  `/api/libraries/${session.libraryId}/history/file?${new URLSearchParams({
    as,
    ...Object.fromEntries(Object.entries(query.value).map(([name, value]) => [name, String(value)])),
  })}`

/** From the newest; or what follows below what is shown. */
const load = (below = false) =>
  toast.attempt(async () => {
    const mine = ++turn
    busy.value = true
    const before = below ? entries.value?.at(-1)?.place : undefined
    try {
      const { params } = library.path()
      const got = await of(
        api.GET('/api/libraries/{library}/history', {
          params: { ...params, query: { ...query.value, ...(before && { before }) } },
        }),
      )
      if (mine !== turn) return
      entries.value = below ? [...(entries.value ?? []), ...got.entries] : got.entries
      more.value = got.more
      known.value = got
    } finally {
      if (mine === turn) busy.value = false
    }
  })
const soon = useDebounceFn(() => load(), 250)
onMounted(() => load())
watch(
  () => library.stamp,
  () => load(),
)
watch(query, () => void soon())
const clear = () => {
  Object.assign(asked, { q: '', kind: '', via: '', person: 0, from: '', till: '' })
  if (about.value) void router.replace({ query: {} })
}

const checked = ref('')
const check = () =>
  toast.attempt(async () => {
    const found = await of(api.GET('/api/libraries/{library}/history/check', library.path()))
    const [first] = found.broken
    checked.value = first
      ? `${found.broken.length} of ${found.entries} entries were altered; the first is number ` +
        `${first.place}: ${first.why}. Keep a backup and tell your administrator.`
      : `All ${found.entries} entries are intact.`
  })
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>History</h1>
      <span class="soft">Who changed what, and when. Undo anything.</span><span class="grow" />
      <button class="plain" title="Check that no entry was altered" @click="check">Verify</button>
      <a class="plain" :href="file('csv')" download>Export CSV</a>
      <a class="plain" :href="file('jsonl')" download title="One entry per line, with all changes">Export JSON lines</a>
    </div>
    <p v-if="checked" class="said" role="status">{{ checked }}</p>
    <div class="line asked">
      <el-input v-model="asked.q" class="words" placeholder="Words" aria-label="Search the history" clearable />
      <el-select v-model="asked.person" aria-label="Who" class="short">
        <el-option :value="0" label="anybody" />
        <el-option v-for="one in known?.people" :key="one.id" :value="one.id" :label="one.name" />
      </el-select>
      <el-select v-model="asked.kind" aria-label="What kind" placeholder="anything" class="short">
        <el-option value="" label="anything" />
        <el-option v-for="one in known?.kinds" :key="one" :value="one" :label="one" />
      </el-select>
      <el-select v-model="asked.via" aria-label="From where" placeholder="from anywhere" class="short">
        <el-option value="" label="from anywhere" />
        <el-option v-for="one in known?.ways" :key="one" :value="one" :label="`from the ${one}`" />
      </el-select>
      <DayField v-model="asked.from" label="From the day" placeholder="from" />
      <DayField v-model="asked.till" label="To the day" placeholder="to" />
      <b v-if="about">{{ about.called }}</b>
      <button v-if="filtered" class="plain" @click="clear">Everything</button>
    </div>
    <table v-if="entries?.length">
      <tbody>
        <HistoryRow v-for="entry in entries" :key="entry.id" :entry="entry" />
      </tbody>
    </table>
    <p v-else-if="entries && filtered" class="empty">
      {{ about ? `No entries about ${about.called}.` : 'No matching entries.' }}
    </p>
    <p v-else-if="entries" class="empty">No changes yet. Every change is recorded here.</p>
    <el-button v-if="more" :loading="busy" class="earlier" @click="load(true)">Load older entries</el-button>
  </div>
</template>

<style scoped>
.head,
.asked {
  margin-bottom: 12px;
}
.head a {
  text-decoration: none;
}
.asked {
  flex-wrap: wrap;
  gap: 8px;
}
.words {
  width: 170px;
}
.short {
  width: 140px;
}
input[type='date'] {
  font: inherit;
  color: inherit;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 4px 8px;
  color-scheme: inherit;
}
.said {
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 8px 12px;
  margin: 0 0 12px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
.earlier {
  margin: 16px 0;
}
</style>
