<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import OrderedList from '../../parts/OrderedList.vue'
import ResetDialog from '../../parts/ResetDialog.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'

const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const route = useRoute()
const router = useRouter()
const chosen = computed(() => library.sets.find(({ id }) => id === Number(route.query.set)) ?? library.sets[0])
const resetting = ref(false)
const fresh = computed(() => tray.ids.filter((id) => !chosen.value?.preset_ids.includes(id)))
watch(() => session.libraryId, () => router.replace({ query: {} }))

const put = (ids: number[]) =>
  toast.attempt(async () => {
    const set = chosen.value!
    const before = [...set.preset_ids]
    set.preset_ids = ids
    try {
      const { entry } = await of(api.PUT('/api/sets/{id}', { params: { path: { id: set.id } }, body: { preset_ids: ids, before } }))
      toast.done(entry.summary, entry)
    } finally {
      await library.load()
    }
  })

async function make(name: string) {
  let id: number | undefined
  await toast.attempt(async () => {
    id = (await of(api.POST('/api/libraries/{library}/sets', { ...library.path(), body: { name } }))).id
    await library.load()
  })
  return id
}
</script>

<template>
  <div class="page sets">
    <Chooser v-slot="{ one }" title="Sets" :list="library.sets" :chosen="chosen?.id" by="set" :adds="session.mayEdit" add="Name of a new set" :make="make">
      <span>{{ one.preset_ids.length }}</span>
    </Chooser>
    <section v-if="chosen">
      <div class="line head">
        <h1>{{ chosen.name }}</h1>
        <span class="soft">{{ chosen.preset_ids.length }} brushes, drag them into the order you want</span>
        <span class="grow" />
        <el-button v-if="session.mayEdit" :disabled="!fresh.length" @click="put([...chosen.preset_ids, ...fresh])">Add the tray · {{ fresh.length }}</el-button>
        <el-button v-if="session.mayEdit" :disabled="!chosen.preset_ids.length" @click="resetting = true">Reset…</el-button>
        <el-button :disabled="!chosen.preset_ids.length" @click="tray.add(chosen.preset_ids)">Pick all</el-button>
      </div>
      <OrderedList :ids="chosen.preset_ids" :fixed="!session.mayEdit" empty="This set is empty. Pick brushes on the Wall, then add the tray." @change="put" />
    </section>
    <ResetDialog v-if="resetting && chosen" :only="chosen.preset_ids" @close="resetting = false" />
    <div v-if="!chosen" class="empty"><p>No sets yet. Name one at the left, then fill it from the tray.</p></div>
  </div>
</template>

<style scoped>
.sets { display: grid; grid-template-columns: 240px minmax(0, 1fr); gap: 28px; align-content: start; }
.head { margin-bottom: 10px; }
</style>
