<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { turns } from '../../parts/newest'
import { day } from '../../parts/when'
import { useSession } from '../../stores/session'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** Brush by brush, who has what: the libraries that follow this one, and its desks. */
type Found = components['schemas']['Consistency']
const library = useLibrary()
const toast = useToast()
const found = ref<Found>()
const only = ref('')
const SIGNS: Record<string, string> = { same: '●', behind: '◐', own: '◆', missing: '–' }
/** Where it is asked of: all places, or one kind. */
const kind = ref('')
const KINDS = { library: 'libraries', desk: 'desks', person: 'people' }
const places = computed(() => (found.value?.places ?? []).filter((one) => !kind.value || one.kind === kind.value))
const plain = computed(() => library.sets.filter(({ query }) => query === null))

const session = useSession()
const leads = computed(() => session.library?.role === 'lead')
const behind = computed(() =>
  found.value?.places.some(({ key, kind }) => kind === 'library' && found.value!.counts[key]?.behind),
)
const remind = () =>
  toast.attempt(async () => {
    const { told } = await of(api.POST('/api/libraries/{library}/consistency/reminders', library.path()))
    toast.done(told.length ? `Told the leads of ${told.join(', ')}.` : 'Everybody is up to date or stays on purpose.')
  })
const bundles = ref<{ id: number; name: string }[]>([])
onMounted(() =>
  toast.attempt(async () => {
    bundles.value = (await of(api.GET('/api/libraries/{library}/bundles', library.path()))).bundles
  }),
)
/** How it came to be so: the first day that is known, beside today. */
const days = computed(() => {
  const first = found.value!.developed[0]!
  return `${day(first.day)}: ${first.newest} of ${first.places}; until today`
})
const turn = turns()
const load = () =>
  toast.attempt(async () => {
    const mine = turn()
    const [by, id] = only.value.split(' ')
    const query = by ? { [by]: Number(id) } : {}
    const params = { ...library.path().params, query }
    const got = await of(api.GET('/api/libraries/{library}/consistency', { params }))
    if (mine()) found.value = got
  })
onMounted(load)
watch(() => [library.stamp, only.value], load)

const states = computed(
  () => new Map((found.value?.cells ?? []).map(([brush, place, state]) => [`${brush} ${place}`, String(state)])),
)
/** Where nobody has a brush there is nothing to tell of it. */
const brushes = computed(() => {
  const had = new Set((found.value?.cells ?? []).map(([brush]) => brush))
  return (found.value?.brushes ?? []).filter(({ id }) => had.has(id))
})
const holder = ref<HTMLElement>()
const ROW = 28
const rows = useVirtualizer(
  computed(() => ({
    count: brushes.value.length,
    getScrollElement: () => holder.value ?? null,
    estimateSize: () => ROW,
    overscan: 12,
  })),
)
const state = (brush: number, place: string) => states.value.get(`${brush} ${place}`) ?? 'missing'
</script>

<template>
  <section v-if="found" class="page" aria-labelledby="who">
    <div class="line">
      <h1 id="who">Versions in use</h1>
      <span>{{ found.sentence }}</span><span class="grow" />
      <button v-if="leads && behind" class="plain" @click="remind">Send reminders</button>
      <label class="line soft small"
        >at
        <el-select v-model="kind" aria-label="Where" size="small" class="inline-select" :empty-values="[undefined]">
          <el-option value="" label="Everywhere" />
          <el-option v-for="(title, key) in KINDS" :key="key" :value="key" :label="title" /> </el-select
      ></label>
      <label class="line soft small"
        >of
        <el-select
          v-model="only"
          aria-label="Which brushes"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
        >
          <el-option value="" label="All brushes" />
          <el-option-group v-if="bundles.length" label="Bundles">
            <el-option v-for="one in bundles" :key="one.id" :value="`bundle ${one.id}`" :label="one.name" />
          </el-option-group>
          <el-option-group v-if="plain.length" label="Sets">
            <el-option v-for="one in plain" :key="one.id" :value="`set ${one.id}`" :label="one.name" />
          </el-option-group> </el-select
      ></label>
    </div>
    <p v-if="found.developed.length > 1" class="soft small developed" :aria-label="`Day by day: ${days}`" role="img">
      <span>{{ days }}</span>
      <i
        v-for="one in found.developed"
        :key="one.day"
        :title="`${day(one.day)}: ${one.newest} of ${one.places}`"
        :style="{ '--share': one.newest / one.places }"
      />
    </p>
    <p v-if="found.places.length" class="soft small">
      <template v-for="(words, key) in found.states" :key="key">{{ SIGNS[key] }} {{ words }} &nbsp; </template>
    </p>
    <div v-if="found.places.length" ref="holder" class="table" role="table" aria-label="Versions in use" tabindex="0">
      <div class="row head" role="row">
        <span class="name" role="columnheader">Brush</span
        ><span v-for="one in places" :key="one.key" class="cell" role="columnheader" :title="one.of"
          ><b>{{ one.name }}</b
          ><br /><span class="soft small">{{ one.of || one.kind }}</span></span
        >
      </div>
      <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
        <div
          v-for="row in rows.getVirtualItems()"
          :key="brushes[row.index]!.id"
          class="row"
          role="row"
          :style="{ position: 'absolute', top: 0, transform: `translateY(${row.start}px)`, height: `${ROW}px` }"
        >
          <span class="name" role="rowheader">{{ brushes[row.index]!.name }}</span><span
            v-for="one in places"
            :key="one.key"
            class="cell"
            role="cell"
            ><span :class="`is-${state(brushes[row.index]!.id, one.key)}`"
              >{{ SIGNS[state(brushes[row.index]!.id, one.key)] }}
              {{ found.states[state(brushes[row.index]!.id, one.key)] }}</span
            ></span
          >
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.developed {
  display: flex;
  align-items: flex-end;
  gap: 2px;
  min-height: 20px;
}
.developed span {
  margin-right: 8px;
}
.developed i {
  width: 5px;
  height: 18px;
  background: linear-gradient(to top, var(--accent) calc(var(--share) * 100%), var(--line) 0);
}
.table {
  max-height: 46vh;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 7px;
}
.row {
  display: flex;
  align-items: center;
  border-top: 1px solid var(--line);
}
.head {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--card);
}
.name {
  position: sticky;
  left: 0;
  flex: 0 0 220px;
  padding: 4px 10px;
  background: var(--card);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.cell {
  flex: 0 0 150px;
  padding: 4px 8px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.is-same {
  color: var(--accent);
}
.is-behind {
  color: var(--ochre);
}
.is-own {
  color: var(--tag-violet);
}
.is-missing {
  color: var(--soft);
}
</style>
