<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of, type Document } from '../../api/client'
import type { components, paths } from '../../api/schema'
import { turns } from '../../parts/newest'
import Painted from '../../parts/Painted.vue'
import { useScale } from '../../parts/scale'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** Two to six brushes on the same sample strokes, with only the settings in which they differ. */
const library = useLibrary()
const toast = useToast()
const route = useRoute()
const router = useRouter()
const ids = computed(() =>
  String(route.query.ids ?? '')
    .split(',')
    .map(Number)
    .filter(Boolean)
    .slice(0, 6),
)
const found = ref<components['schemas']['Differences']>()
const strokes = ref<
  paths['/api/sample-strokes']['get']['responses']['200']['content']['application/json']['sample_strokes']
>([])
const chosen = ref(['swell', 'press', 'taps'])
useScale()

const turn = turns()
watch(
  ids,
  () =>
    toast.attempt(async () => {
      const mine = turn()
      const got = await of(
        api.POST('/api/libraries/{library}/differences', { ...library.path(), body: { preset_ids: ids.value } }),
      )
      if (mine()) found.value = got
      strokes.value = (await of(api.GET('/api/sample-strokes'))).sample_strokes
    }),
  { immediate: true },
)
const without = (id: number) => router.replace({ query: { ids: ids.value.filter((one) => one !== id).join(',') } })
// One object for each wish, so that a strip is not painted anew when its neighbour is.
const asks = computed(() =>
  Object.fromEntries(
    (found.value?.presets ?? []).flatMap(({ id, document }) =>
      chosen.value.map((sample) => [`${id}.${sample}`, { document: document as Document, try: { sample } }]),
    ),
  ),
)
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Compare</h1>
      <span class="soft">Same strokes, sizes on one scale</span><span class="grow" />
      <el-select v-model="chosen" multiple collapse-tags size="small" aria-label="Sample strokes" class="strokes"
        ><el-option v-for="one in strokes" :key="one.name" :value="one.name" :label="one.title.split(':')[0]"
      /></el-select>
    </div>
    <template v-if="found">
      <div v-for="preset in found.presets" :key="preset.id" class="row">
        <div>
          <router-link :to="{ name: 'bench', params: { id: preset.id } }">{{ preset.name }}</router-link><br /><span
            class="soft small"
            >{{ preset.size }} px · {{ preset.traits.join(' · ') }}</span
          ><br /><button class="plain small" @click="without(preset.id)">Remove</button>
        </div>
        <Painted
          v-for="sample in chosen"
          :key="sample"
          :ask="asks[`${preset.id}.${sample}`]"
          :label="`${preset.name}, ${sample}`"
        />
      </div>
      <table v-if="found.rows.length">
        <thead>
          <tr>
            <th scope="col">What differs</th>
            <th v-for="preset in found.presets" :key="preset.id" scope="col">{{ preset.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in found.rows" :key="row.title">
            <th scope="row">{{ row.title }}</th>
            <td v-for="(value, index) in row.values" :key="index">{{ value }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="found.presets.length > 1" class="soft">No setting differs.</p>
    </template>
    <div v-if="ids.length < 2" class="empty">
      <p>Select two to six brushes, then choose Compare in the tray.</p>
    </div>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 8px;
}
.strokes {
  width: 260px;
}
.row {
  display: grid;
  grid-template-columns: 190px repeat(auto-fit, minmax(0, 1fr));
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
.row a {
  font-weight: 700;
  color: var(--accent);
}
.row :deep(.painted) {
  height: auto;
  aspect-ratio: 700 / 120;
}
table {
  margin-top: 16px;
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 4px 10px 4px 0;
  border-top: 1px solid var(--line);
  font-weight: 400;
}
thead th {
  font-weight: 700;
  border: 0;
}
tbody th {
  color: var(--soft);
  width: 190px;
}
</style>
