<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { turns } from '../newest'
import PointAt, { type Point } from './PointAt.vue'
import { moment } from '../when'

/** What people say about a brush, a release or a proposal. */
type Comment = components['schemas']['Comment']
const props = defineProps<{
  about: 'preset' | 'release' | 'proposal'
  id: number
  version?: number
  /** Of that version: its stroke can be pointed at. */
  fingerprint?: string
}>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const said = ref<Comment[]>([])
const text = ref('')
const pointed = ref(false)
/** The place of the stroke that is meant, in shares. */
const place = ref<Point>()
const path = computed(() => ({
  params: { path: { ...library.path().params.path, about: props.about, item: props.id } },
}))
const turn = turns()
const load = () =>
  toast.attempt(async () => {
    const mine = turn()
    const { comments } = await of(api.GET('/api/libraries/{library}/talk/{about}/{item}', path.value))
    if (mine()) said.value = comments
  })
onMounted(load)
watch(() => [props.about, props.id], load)
watch(() => library.talked, load)

async function say() {
  const meant = pointed.value && props.version ? { version: props.version, ...place.value } : {}
  const body = { text: text.value, ...meant }
  const well = await toast.attempt(async () => {
    said.value = [
      ...said.value,
      await of(api.POST('/api/libraries/{library}/talk/{about}/{item}', { ...path.value, body })),
    ]
  })
  if (!well) return
  text.value = ''
  place.value = undefined
}
const takeBack = (one: Comment) =>
  toast.attempt(async () => {
    const at = { params: { path: { ...library.path().params.path, item: one.id } } }
    await of(api.DELETE('/api/libraries/{library}/comments/{item}', at))
    await load()
  })
</script>

<template>
  <section class="talk" aria-label="Comments">
    <div v-for="one in said" :key="one.id" class="one">
      <span class="soft small"
        >{{ one.by }}, {{ moment(one.at) }}{{ one.version ? `, about version ${one.version}` : '' }}
        <button v-if="one.by_id === session.person?.id" class="plain small" @click="takeBack(one)">Delete</button>
      </span>
      <PointAt
        v-if="one.fingerprint && one.x !== null && one.y !== null"
        :fingerprint="one.fingerprint"
        :label="`version ${one.version}, where ${one.by} points`"
        :at="{ x: one.x, y: one.y }"
      />
      <div class="text">{{ one.text }}</div>
    </div>
    <form @submit.prevent="say">
      <PointAt
        v-if="pointed && fingerprint"
        v-model:at="place"
        :fingerprint="fingerprint"
        :label="`version ${version}`"
        moves
      />
      <el-input
        v-model="text"
        type="textarea"
        :autosize="{ minRows: 1, maxRows: 5 }"
        maxlength="2000"
        placeholder="Write a comment; @name notifies somebody"
        aria-label="Write a comment"
        @keydown.ctrl.enter="say"
      />
      <div class="line">
        <el-checkbox v-if="version" v-model="pointed" :label="`about version ${version}`" />
        <span class="grow" /><el-button size="small" native-type="submit" :disabled="!text.trim()">Post</el-button>
      </div>
    </form>
  </section>
</template>

<style scoped>
.one {
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
.text {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
form {
  display: grid;
  gap: 4px;
  padding-top: 6px;
}
</style>
