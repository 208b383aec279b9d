<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import Strip from '../../parts/Strip.vue'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'

/** Brushes that paint the same, or nearly the same, in groups; keep one, or keep both. */
const library = useLibrary()
const toast = useToast()
const found = ref<components['schemas']['Duplicates']>()
const keep = ref<Record<number, number>>({})
const away = ref(new Set<string>())
const most = ref(0)
let gone = false

async function look() {
  await toast.attempt(async () => {
    let got = await of(api.GET('/api/libraries/{library}/duplicates', library.path()))
    most.value = got.left
    found.value = got
    // Strips that were never painted are painted first, a few seconds' worth at a time.
    while (!got.ready && !gone) {
      got = await of(api.GET('/api/libraries/{library}/duplicates', library.path()))
      found.value = got
    }
    keep.value = Object.fromEntries(got.groups.map((group, index) => [index, group.presets[0]!.id]))
  })
}
onMounted(look)
onBeforeUnmount(() => (gone = true))
watch(() => toast.undone, look)

const key = (group: { presets: { id: number }[] }) => group.presets.map(({ id }) => id).join()
const settle = (index: number) =>
  toast.attempt(async () => {
    const group = found.value!.groups[index]!
    const { entry } = await of(
      api.POST('/api/libraries/{library}/duplicates', {
        ...library.path(),
        body: { keep: keep.value[index]!, preset_ids: group.presets.map(({ id }) => id) },
      }),
    )
    await Promise.all([look(), library.load()])
    toast.done(entry.summary, entry)
  })
</script>

<template>
  <div class="page">
    <h1>Duplicates</h1>
    <p class="soft">
      Brushes that paint the same, or nearly so. Those you don’t keep are hidden; sets and start-up plans switch to the
      one you keep.
    </p>
    <div v-if="found && !found.ready" class="soft" role="status">
      Painting and comparing strips: {{ found.left }} to go<el-progress
        :percentage="most ? Math.round(100 - (found.left / most) * 100) : 0"
        :show-text="false"
      />
    </div>
    <p v-if="!found" class="soft" role="status">Comparing what each brush paints…</p>
    <template v-if="found?.ready">
      <template v-for="(group, index) in found.groups" :key="key(group)">
        <section v-if="!away.has(key(group))" class="group">
          <div class="line">
            <b>{{
              group.kind === 'identical' ? 'identical' : `alike ${Math.round(group.alike * 1000) / 10} %`
            }}</b><span class="soft">{{ group.presets.length }} brushes</span><span class="grow" /><el-button
              size="small"
              @click="away.add(key(group))"
              >Keep all</el-button
            ><el-button size="small" type="primary" @click="settle(index)">Keep the selected one</el-button>
          </div>
          <label v-for="(preset, place) in group.presets" :key="preset.id" class="row"
            ><el-radio v-model="keep[index]" :value="preset.id" :aria-label="`Keep ${preset.name}`">&nbsp;</el-radio
            ><Strip :fingerprint="preset.fingerprint" :label="preset.name" /><b>{{ preset.name }}</b
            ><span class="soft">{{ preset.size }} px · version {{ preset.version }}</span
            ><span class="small soft">{{
              group.differences.map(({ title, values }) => `${title} ${values[place] ?? '…'}`).join(', ')
            }}</span></label
          >
        </section>
      </template>
      <div v-if="!found.groups.filter((group) => !away.has(key(group))).length" class="empty">
        <p>No duplicates. Every brush paints differently.</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.group {
  margin: 12px 0;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--card);
}
.row {
  display: grid;
  grid-template-columns: 24px 260px 160px 120px 1fr;
  gap: 12px;
  align-items: center;
  padding: 4px 0;
  cursor: pointer;
}
.group :deep(.el-button + .el-button) {
  margin-left: 0;
}
</style>
