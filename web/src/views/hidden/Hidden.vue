<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import UsedWhere from '../../parts/UsedWhere.vue'
import Strip from '../../parts/Strip.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { day } from '../../parts/when'

/** Hidden brushes: bring back, or destroy on purpose. */
const library = useLibrary()
const session = useSession()
const toast = useToast()
const rows = ref<components['schemas']['Hidden'][]>()
const days = ref<number | null>(null)
const chosen = ref(new Set<number>())
/** More than so many are destroyed only by somebody who has typed their number. */
const MANY = 5
const typed = ref('')
const asking = ref(false)
const ids = computed(() => [...chosen.value])
const load = () =>
  toast.attempt(async () => {
    const got = await of(api.GET('/api/libraries/{library}/hidden', library.path()))
    rows.value = got.presets
    days.value = got.days
    const here = new Set(got.presets.map(({ id }) => id))
    chosen.value = new Set([...chosen.value].filter((id) => here.has(id)))
  })
onMounted(load)
watch(() => library.stamp, load)
const flip = (id: number) => (chosen.value.has(id) ? chosen.value.delete(id) : chosen.value.add(id))
const all = computed(() => !!rows.value?.length && chosen.value.size === rows.value.length)
const flipAll = () => (chosen.value = new Set(all.value ? [] : rows.value?.map(({ id }) => id)))
const sure = computed(() => ids.value.length <= MANY || typed.value.trim() === String(ids.value.length))
/** Those that the next night takes. */
const tonight = computed(() => rows.value?.filter(({ goes_at: at }) => at && Date.parse(at) < Date.now() + DAY) ?? [])
const DAY = 86_400_000
const ask = () => {
  typed.value = ''
  asking.value = true
}
const back = () =>
  toast.recorded(() =>
    of(
      api.POST('/api/libraries/{library}/hidings', {
        ...library.path(),
        body: { preset_ids: ids.value, hidden: false },
      }),
    ),
  )
const destroy = () =>
  toast.attempt(async () => {
    const { entry } = await of(
      api.DELETE('/api/libraries/{library}/hidden', { ...library.path(), body: { preset_ids: ids.value } }),
    )
    asking.value = false
    await library.load()
    toast.done(entry.summary)
  })
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Hidden</h1>
      <span class="soft"
        >Hidden brushes, kept until restored or deleted.
        <RouterLink :to="{ name: 'parts', query: { only: 'hidden' } }">Deleted tips and grains</RouterLink> are listed
        under Tips and grains</span
      ><span class="grow" /><el-button :disabled="!ids.length" type="primary" @click="back"
        >Restore ({{ ids.length }})</el-button
      ><el-button v-if="session.library?.role === 'lead'" :disabled="!ids.length" @click="ask"
        >Delete permanently…</el-button
      >
    </div>
    <p v-if="days" class="soft" :role="tonight.length ? 'status' : undefined">
      Unused brushes are deleted after {{ days }} days, as set under
      <RouterLink v-if="session.library?.role === 'lead'" :to="{ name: 'storage' }">storage</RouterLink
      ><template v-else>storage</template> says{{
        tonight.length
          ? `: in the coming night ${tonight.length}, ${tonight
              .slice(0, 5)
              .map(({ name }) => name)
              .join(', ')}${tonight.length > 5 ? ' …' : ''}.`
          : '; none tonight.'
      }}
    </p>
    <label v-if="rows && rows.length > 1" class="row every"
      ><el-checkbox
        :model-value="all"
        :indeterminate="chosen.size > 0 && !all"
        aria-label="Select all"
        @change="flipAll"
      /><span class="soft">all {{ rows.length }}</span></label
    >
    <label v-for="row in rows" :key="row.id" class="row"
      ><el-checkbox :model-value="chosen.has(row.id)" :aria-label="`Select ${row.name}`" @change="flip(row.id)" /><Strip
        :fingerprint="row.fingerprint"
        :label="row.name"
        lazy
      /><b>{{ row.name }}</b
      ><span class="soft">{{ row.size }} px · version {{ row.version }}</span
      ><span class="soft small"
        >hidden by {{ row.by ?? 'somebody' }}, {{ day(row.at)
        }}{{ row.goes_at ? `; will be deleted on ${day(row.goes_at)}` : '' }}</span
      ></label
    >
    <div v-if="rows && !rows.length" class="empty">
      <p>No hidden brushes. Those you hide are kept until you restore or delete them.</p>
    </div>
    <FormDialog
      v-if="asking"
      title="Delete permanently"
      :deed="`Delete ${ids.length}`"
      cancel="Keep them"
      :ready="sure"
      danger
      width="460px"
      @submit="destroy"
      @close="asking = false"
    >
      <p>
        {{ ids.length === 1 ? 'This brush' : `These ${ids.length} brushes` }} and all their versions will be deleted.
        This can’t be undone.
      </p>
      <UsedWhere :ids="ids" />
      <el-input
        v-if="ids.length > MANY"
        v-model="typed"
        :placeholder="`Type ${ids.length} to confirm`"
        :aria-label="`Type ${ids.length} to confirm`"
      />
    </FormDialog>
  </div>
</template>

<style scoped>
a {
  color: var(--accent);
}
.head {
  margin-bottom: 8px;
}
.every {
  border-top: 0;
}
.row {
  display: grid;
  grid-template-columns: 24px 260px 180px 150px 1fr;
  gap: 12px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
</style>
