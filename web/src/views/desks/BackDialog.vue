<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { turns } from '../../parts/newest'
import { useDeed } from '../../parts/useDeed'
import { dated } from '../../parts/when'
import { atDesk } from './useDesk'

/** Several desks back to what they had: told for each before it is done. */
const props = defineProps<{ desks: components['schemas']['DeskTable']['desks'] }>()
const emit = defineEmits<{ close: [] }>()
const { library, toast } = atDesk()
type To = 'previous' | 'moment' | 'before'
type Told = { id: number; desk: string; plan: number | null; problem: string | null } & Partial<{
  before: boolean
  by: string | null
  why: string
  at: string
  count: number
}>
const WAYS: [To, string][] = [
  ['previous', 'each desk’s previous plan'],
  ['moment', 'as at a point in time'],
  ['before', 'as before Fobrel'],
]
const to = ref<To>('previous')
const moment = ref('')
const why = ref('')
const chosen = ref(new Set(props.desks.filter(({ plan }) => plan).map(({ id }) => id)))
const rooms = computed(() => [...new Set(props.desks.map(({ room }) => room).filter(Boolean))])
const inRoom = (room: string) =>
  (chosen.value = new Set(props.desks.filter((one) => one.room === room).map((one) => one.id)))
function toggle(id: number) {
  const next = new Set(chosen.value)
  if (!next.delete(id)) next.add(id)
  chosen.value = next
}
const told = ref<Told[]>([])
const back = computed(() => ({ to: to.value, at: moment.value ? new Date(moment.value).toISOString() : undefined }))
const ready = computed(() => to.value !== 'moment' || !!moment.value)
const ask = (ids: number[], look: boolean) => {
  const body = { desk_ids: ids, why: why.value, back: back.value }
  const params = { ...library.path().params, query: look ? { look } : {} }
  return of(api.POST('/api/libraries/{library}/sends', { params, body }))
}
const turn = turns()
const look = () =>
  toast.attempt(async () => {
    const mine = turn()
    // Nothing is done that was not told first.
    told.value = []
    const got = ready.value
      ? await ask(
          props.desks.map(({ id }) => id),
          true,
        )
      : { told: [] }
    if (mine()) told.value = got.told
  })
onMounted(look)
watch(back, look)
const found = computed(() => new Map(told.value.map((one) => [one.id, one])))
function words(id: number) {
  const one = found.value.get(id)
  if (!one) return ''
  if (one.problem) return one.problem
  if (one.plan === null || one.before) return 'as before Fobrel'
  const said = one.why ? `: ${one.why}` : ''
  return `plan ${one.plan}, ${one.count} brushes: ${dated(one.at!)}, ${one.by ?? 'somebody'}${said}`
}
const going = computed(() =>
  told.value.filter(({ id, problem }) => !problem && chosen.value.has(id)).map(({ id }) => id),
)
const { busy, problem, go } = useDeed(async () => {
  const done = (await ask(going.value, false)).told
  await library.load()
  const bad = done.filter((one) => one.problem)
  if (bad.length) {
    await look()
    throw new Error(bad.map((one) => `${one.desk}: ${one.problem}`).join(' '))
  }
  toast.done(`${done.map(({ desk }) => desk).join(', ')}: restored. Their current plans are unchanged.`)
  emit('close')
})
</script>

<template>
  <FormDialog
    title="Restore several desks"
    :deed="going.length ? `Restore ${going.length}` : 'Restore'"
    width="760px"
    :busy="busy"
    :ready="ready && !!going.length"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <div class="line" role="radiogroup" aria-label="Restore to">
      <el-radio-group v-model="to">
        <el-radio v-for="[value, title] in WAYS" :key="value" :value="value">{{ title }}</el-radio>
      </el-radio-group>
    </div>
    <label v-if="to === 'moment'">Point in time<input v-model="moment" type="datetime-local" /></label>
    <div v-if="rooms.length > 1" class="line">
      <span class="soft">only</span
      ><button v-for="room in rooms" :key="room" type="button" class="plain" @click="inRoom(room)">{{ room }}</button>
    </div>
    <div class="rows">
      <div v-for="one in desks" :key="one.id" class="line one">
        <el-checkbox
          :model-value="chosen.has(one.id) && !found.get(one.id)?.problem"
          :disabled="!!found.get(one.id)?.problem"
          :label="one.name"
          @change="toggle(one.id)"
        /><span class="soft">{{ words(one.id) }}</span>
      </div>
    </div>
    <label>Why<el-input v-model="why" maxlength="300" placeholder="optional" /></label>
    <p class="soft">Sent as new plans. Personal brushes on the desks stay.</p>
  </FormDialog>
</template>

<style scoped>
.rows {
  max-height: 40vh;
  overflow: auto;
}
.one {
  padding: 3px 0;
  border-top: 1px solid var(--line);
}
input[type='datetime-local'] {
  font: inherit;
  padding: 4px 8px;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.one .el-checkbox {
  min-width: 200px;
}
</style>
