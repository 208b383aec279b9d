<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import BrushName from '../../parts/BrushName.vue'
import PartPicture from '../../parts/PartPicture.vue'
import Strip from '../../parts/Strip.vue'
import TagMark from '../../parts/TagMark.vue'
import Talk from '../../parts/talk/Talk.vue'
import { api, of, type Detail, type Document, type Preset } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import { day } from '../../parts/when'

/** One preset, without leaving the list. */
const props = defineProps<{ preset: Preset }>()
defineEmits<{ open: [] }>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const tray = useTray()
const detail = ref<Detail>()
const about = computed<Document>(() => (detail.value?.document.about as Document | undefined) ?? {})

const load = () =>
  toast.attempt(
    async () => (detail.value = await of(api.GET('/api/presets/{id}', { params: { path: { id: props.preset.id } } }))),
  )
onMounted(load)
watch(() => [props.preset.fingerprint, props.preset.draft], load)

async function untag(name: string) {
  await toast.attempt(async () => {
    const { entry } = await of(
      api.POST('/api/libraries/{library}/taggings', {
        ...library.path(),
        body: { tag: name, preset_ids: [props.preset.id], on: false },
      }),
    )
    await library.load()
    toast.done(entry.summary, entry)
  })
}

async function reset() {
  await toast.attempt(async () => {
    const { entry } = await of(
      api.POST('/api/libraries/{library}/reset', { ...library.path(), body: { preset_ids: [props.preset.id] } }),
    )
    await library.load()
    await load()
    toast.done(entry.summary, entry)
  })
}
</script>

<template>
  <aside class="peek" :aria-label="`About ${preset.name}`">
    <Strip :fingerprint="preset.fingerprint" shape="peek" :label="preset.name" />
    <span v-if="preset.picture" class="preview"
      ><PartPicture :reference="`sha256:${preset.picture}`" :label="`Picture of ${preset.name}`"
    /></span>
    <BrushName :id="preset.id" :name="preset.name" @renamed="load()" />
    <p class="soft">{{ preset.size }} px · version {{ preset.version }} · {{ preset.traits.join(', ') }}</p>
    <p v-if="preset.draft || preset.altered" class="line">
      <span class="changed">{{ preset.draft ? 'your unsaved change' : 'changed since baseline' }}</span>
      <button v-if="session.mayEdit" class="plain" @click="reset">Reset</button>
    </p>
    <template v-if="detail">
      <p v-if="about.purpose">
        <b>{{ about.purpose }}</b>
      </p>
      <p v-if="about.notes">{{ about.notes }}</p>
      <p v-if="about.ground || about.sizes" class="soft">
        {{ [about.ground && `on ${about.ground}`, about.sizes && `at ${about.sizes}`].filter(Boolean).join(', ') }}
      </p>
      <div v-if="preset.tag_ids.length" class="tags">
        <span v-for="id in preset.tag_ids" :key="id" class="line">
          <TagMark v-if="library.tagById.get(id)" :tag="library.tagById.get(id)!" />
          <button
            v-if="session.mayEdit"
            class="plain small"
            :aria-label="`Remove the tag ${library.tagById.get(id)?.name}`"
            @click="untag(library.tagById.get(id)!.name)"
          >
            ✕
          </button>
        </span>
      </div>
      <dl>
        <template v-if="detail.since_baseline.length">
          <dt>Since baseline</dt>
          <dd>
            <span v-for="words in detail.since_baseline" :key="words" class="since">{{ words }}</span>
          </dd>
        </template>
        <dt>Needs</dt>
        <dd>
          {{
            detail.needs.length
              ? `${detail.needs.length} ${detail.needs.length === 1 ? 'picture' : 'pictures'}`
              : 'nothing'
          }}
        </dd>
        <template v-if="detail.came_from">
          <dt>From</dt>
          <dd>
            <component :is="detail.came_from.here ? 'router-link' : 'span'" :to="detail.came_from.here"
              >{{ detail.came_from.library }}, {{ detail.came_from.name }}</component
            >, version {{ detail.came_from.version }}
          </dd>
        </template>
        <template v-if="detail.taken.length">
          <dt>Copied to</dt>
          <dd>
            <div v-for="one in detail.taken" :key="one.path">
              <router-link :to="one.path">{{ one.library }}</router-link>{{ one.behind ? ', an older version' : '' }}
            </div>
          </dd>
        </template>
        <dt>In sets</dt>
        <dd>{{ detail.sets.map(({ name }) => name).join(', ') || 'none' }}</dd>
        <dt>On desks</dt>
        <dd>{{ detail.desks.join(', ') || 'none' }}</dd>
        <dt>By</dt>
        <dd>
          {{ about.author || 'unknown' }}<template v-if="about.licence">, {{ about.licence }}</template>
        </dd>
      </dl>
      <h2>
        Versions
        <RouterLink class="history" :to="{ name: 'history', query: { preset: preset.id } }"
          >History of this brush</RouterLink
        >
      </h2>
      <div v-for="version in detail.versions" :key="version.number" class="version">
        <Strip :fingerprint="version.fingerprint" :label="`${preset.name}, version ${version.number}`" />
        <span
          >{{ version.number }}{{ version.number === preset.baseline ? ' · baseline' : ''
          }}{{ version.note ? ` · ${version.note}` : '' }}<br /><span class="soft small"
            >{{ day(version.at) }}, {{ version.by ?? 'unknown' }}</span
          ></span
        >
      </div>
    </template>
    <template v-if="detail">
      <h2>Comments</h2>
      <Talk :id="preset.id" about="preset" :version="preset.version" :fingerprint="preset.fingerprint" />
    </template>
    <div class="line doing">
      <el-button type="primary" @click="$emit('open')">Open on the Bench</el-button>
      <el-button @click="tray.toggle(preset.id)">{{ tray.has(preset.id) ? 'Deselect' : 'Select' }}</el-button>
    </div>
  </aside>
</template>

<style scoped>
.history {
  float: right;
  font-weight: 400;
}
.peek {
  border-left: 1px solid var(--line);
  background: var(--card);
  padding: 14px 16px;
  overflow: auto;
}
.peek > :deep(h1) {
  margin: 10px 0 2px;
  white-space: normal;
}
.peek > :deep(form) {
  margin: 10px 0 2px;
}
.preview {
  float: right;
  width: 56px;
  height: 56px;
  margin: 8px 0 4px 8px;
}
h2 {
  font-size: 12px;
  margin: 12px 0 4px;
}
p {
  margin: 4px 0 8px;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
}
.tags .line {
  gap: 1px;
  min-width: 0;
  max-width: 100%;
}
dl {
  display: grid;
  grid-template-columns: 76px 1fr;
  row-gap: 3px;
  margin: 10px 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
.since {
  display: block;
}
.version {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 8px;
  align-items: center;
  margin: 5px 0;
}
.doing {
  position: sticky;
  bottom: -14px;
  z-index: 2;
  margin: 12px -16px -14px;
  padding: 10px 16px 12px;
  background: var(--card);
}
</style>
