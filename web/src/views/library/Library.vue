<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import Strip from '../../parts/Strip.vue'
import { day } from '../../parts/when'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import DescribeDialog from './DescribeDialog.vue'
import LockDialog from './LockDialog.vue'

/** A library's own page: what it is for, its newest releases, what is new, what is in it; fit to be printed. */
type Page = components['schemas']['LibraryPage']
const library = useLibrary()
const session = useSession()
const toast = useToast()
const page = ref<Page>()
const describing = ref(false)
const locking = ref(false)
const KINDS: Record<string, string> = {
  project: 'A project’s library',
  studio: 'The whole studio’s library',
  stock: 'Stock: untouched originals',
  personal: 'Personal library',
}
const load = async () => (page.value = await of(api.GET('/api/libraries/{library}', library.path())))
onMounted(() => toast.attempt(load))
watch(
  () => library.stamp,
  () => toast.attempt(load),
)
const leads = computed(() => session.library?.role === 'lead')
const archive = (archived: boolean) =>
  toast.attempt(async () => {
    const { entry } = await of(api.PUT('/api/libraries/{library}', { ...library.path(), body: { archived } }))
    await session.load()
    await load()
    toast.done(`${entry.summary}.`)
  })
async function described() {
  describing.value = false
  await toast.attempt(async () => {
    await session.load()
    await load()
  })
}
const print = () => window.print()
</script>

<template>
  <div v-if="page" class="page">
    <div class="line head">
      <h1>{{ page.name }}</h1>
      <span class="soft">{{ KINDS[page.kind] }}</span><span v-if="page.archived" class="changed"
        >Archived: read only</span
      ><span class="grow" />
      <span class="line no-print"
        ><template v-if="leads"
          ><el-button @click="describing = true">Name and description…</el-button
          ><el-button v-if="page.archived" @click="archive(false)">Bring back</el-button
          ><el-button v-else @click="archive(true)">Archive</el-button></template
        ><el-button @click="locking = true">Lock file…</el-button><el-button @click="print">Print</el-button></span
      >
    </div>
    <p class="what">{{ page.description || 'No description yet.' }}</p>
    <p class="soft">
      {{ page.brushes }} {{ page.brushes === 1 ? 'brush' : 'brushes' }} · led by {{ page.leads.join(', ') || 'nobody' }}
    </p>
    <div class="columns">
      <section aria-labelledby="newest">
        <h2 id="newest">Newest releases</h2>
        <p v-if="!page.releases.length" class="soft">No releases yet.</p>
        <div v-for="one in page.releases" :key="`${one.bundle_id}.${one.number}`" class="release">
          <router-link :to="{ name: 'bundles', query: { bundle: one.bundle_id } }"
            ><b>{{ one.bundle }}</b></router-link
          >
          {{ one.number }} <span class="soft">{{ day(one.at) }}</span>
          <div v-if="one.notes" class="notes">{{ one.notes }}</div>
        </div>
        <h2>Contents</h2>
        <table>
          <tbody>
            <tr v-for="one in page.categories" :key="one.name">
              <td>{{ one.name }}</td>
              <td class="count">{{ one.count }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section aria-labelledby="fresh">
        <h2 id="fresh">Recently added</h2>
        <div v-for="one in page.fresh" :key="one.id" class="fresh">
          <Strip :fingerprint="one.fingerprint" :label="one.name" />
          <router-link :to="{ name: 'brushes', query: { search: one.name } }"
            ><b>{{ one.name }}</b></router-link
          >
          <span class="soft size">{{ one.size }} px</span>
          <div v-if="one.notes" class="soft small notes">{{ one.notes }}</div>
        </div>
        <p v-if="!page.fresh.length" class="soft">No brushes yet. Import some.</p>
      </section>
    </div>
    <LockDialog v-if="locking" :may-restore="leads && !page.archived" @close="locking = false" />
    <DescribeDialog v-if="describing" :page="page" @close="describing = false" @done="described" />
  </div>
</template>

<style scoped>
.what {
  max-width: 70ch;
  font-size: 15px;
  margin: 10px 0 4px;
  white-space: pre-line;
}
.columns {
  display: grid;
  grid-template-columns: minmax(260px, 1fr) minmax(360px, 1.4fr);
  gap: 36px;
  margin-top: 18px;
}
h2 {
  margin: 0 0 8px;
}
h2:not(:first-child) {
  margin-top: 24px;
}
.release,
.fresh {
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.notes {
  white-space: pre-line;
}
.size {
  margin-left: 6px;
}
.fresh .strip {
  width: 260px;
  float: left;
  margin-right: 12px;
}
.fresh {
  min-height: 60px;
}
.fresh::after {
  content: '';
  display: block;
  clear: both;
}
table {
  border-collapse: collapse;
  width: 100%;
}
td {
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
.count {
  text-align: right;
}
@media print {
  .no-print {
    display: none;
  }
}
@media (max-width: 820px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
