<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import PartPicture from '../../parts/PartPicture.vue'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import ExchangeDialog from './ExchangeDialog.vue'
import type { Part } from './Parts.vue'

/** One part: large, with its figures, where it is used, what is like it, and what can be done with it. */
const props = defineProps<{ part: Part; all: Part[] }>()
defineEmits<{ go: [sum: string] }>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const router = useRouter()
const exchanging = ref(false)
const name = ref(props.part.named ? props.part.name : '')
const tags = ref(props.part.tags.join(', '))
const like = computed(() => props.all.filter(({ sum }) => props.part.like.includes(sum)))
const hidden = computed(() => router.currentRoute.value.query.only === 'hidden')
const at = () => ({ params: { path: { library: library.path().params.path.library, sum: props.part.sum } } })

const change = (body: { name?: string; tags?: string[]; own?: boolean; hidden?: boolean }) =>
  toast.recorded(() => of(api.PUT('/api/libraries/{library}/parts/{sum}', { ...at(), body })))
const keep = () => {
  const list = tags.value
    .split(',')
    .map((tag) => tag.trim())
    .filter(Boolean)
  return change({ ...(name.value.trim() ? { name: name.value.trim() } : {}), tags: list })
}
const changed = computed(
  () => (name.value.trim() && name.value.trim() !== props.part.name) || tags.value !== props.part.tags.join(', '),
)
const open = () =>
  toast.attempt(async () => {
    const { made, sum } = props.part
    const figure = made?.figure as never
    const body = figure ? { figure } : { parts: [sum], name: props.part.name }
    const work = await of(api.POST('/api/libraries/{library}/works/made', { ...library.path(), body }))
    await router.push({ name: 'tip-maker', query: { work: work.id } })
  })
</script>

<template>
  <aside class="peek" aria-label="This part">
    <div class="well"><PartPicture :reference="`sha256:${part.sum}`" :label="part.name" :side="400" /></div>
    <h1>{{ part.named ? part.name : `A ${part.kind} of ${part.name}` }}</h1>
    <p class="soft small">
      {{ part.kind }} · {{ part.width }} × {{ part.height }} px · paints {{ Math.round(part.cover * 100) }} % of its
      square · {{ part.colours ? 'keeps its own colours' : 'uses the artist’s colour' }}
    </p>
    <form v-if="session.mayEdit && !hidden" class="fields" @submit.prevent="keep">
      <el-input v-model="name" size="small" placeholder="Name" aria-label="Name of the part" maxlength="100" />
      <el-input
        v-model="tags"
        size="small"
        placeholder="tags, comma-separated"
        aria-label="Tags of the part"
        maxlength="300"
      />
      <div class="line">
        <el-button size="small" native-type="submit" :disabled="!changed">Save</el-button>
        <button v-if="part.own" type="button" class="plain small" @click="change({ own: false })">
          Move to the library
        </button>
      </div>
    </form>
    <div v-if="session.mayEdit" class="line deeds">
      <button v-if="hidden" class="plain" @click="change({ hidden: false })">Restore</button>
      <template v-else>
        <button class="plain" @click="open">Open in the Tip maker</button>
        <button v-if="part.brushes.length" class="plain" @click="exchanging = true">Replace…</button>
        <button v-if="part.named && !part.brushes.length" class="plain" @click="change({ hidden: true })">
          Delete
        </button>
      </template>
    </div>
    <section v-if="part.brushes.length" aria-label="Where it is used">
      <h3>Used in {{ part.brushes.length }} {{ part.brushes.length === 1 ? 'brush' : 'brushes' }}</h3>
      <ul>
        <li v-for="brush in part.brushes.slice(0, 40)" :key="brush.id">
          <RouterLink :to="{ name: 'bench', params: { id: brush.id } }">{{ brush.name }}</RouterLink>
        </li>
      </ul>
    </section>
    <section v-if="like.length" aria-label="Nearly the same">
      <h3>Nearly the same</h3>
      <div class="line like">
        <button v-for="one in like" :key="one.sum" type="button" :aria-label="one.name" @click="$emit('go', one.sum)">
          <PartPicture :reference="`sha256:${one.sum}`" :label="one.name" :side="64" />
        </button>
      </div>
    </section>
    <ExchangeDialog v-if="exchanging" :part="part" :all="all" @close="exchanging = false" />
  </aside>
</template>

<style scoped>
.peek {
  display: grid;
  gap: 8px;
  align-content: start;
  overflow: auto;
  padding: 12px 16px 20px;
  border-left: 1px solid var(--line);
  background: var(--card);
}
.well {
  display: grid;
  place-items: center;
  height: 216px;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 8px;
}
.well :deep(img) {
  max-width: 200px;
  max-height: 200px;
}
p {
  margin: 0;
}
.fields {
  display: grid;
  gap: 6px;
}
.deeds {
  flex-wrap: wrap;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  columns: 2;
}
a {
  color: var(--accent);
}
.like {
  flex-wrap: wrap;
}
.like button {
  width: 52px;
  height: 52px;
  padding: 2px;
  background: var(--strip);
  border: 1px solid var(--line-strong);
  border-radius: 6px;
  cursor: pointer;
}
.like :deep(img) {
  max-width: 100%;
  max-height: 100%;
}
</style>
