<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, of } from '../../api/client'
import type { components } from '../../api/schema'
import { moment } from '../../parts/when'
import { onTipWork } from './useTipWork'

/** Where a piece of work begins: pictures, words, a shape; or goes on. */
const emit = defineEmits<{ choose: [] }>()
const work = onTipWork()
const router = useRouter()
const works = ref<components['schemas']['Work'][]>([])
const text = ref('© ')
const load = () =>
  work.toast.attempt(
    async () => (works.value = (await of(api.GET('/api/libraries/{library}/works', work.library.path()))).works),
  )
onMounted(load)
const write = () => text.value.trim() && work.make({ text: { text: text.value } })
const path = (id: number) => ({ params: { path: { id } } })
async function drop(id: number) {
  const name = works.value.find((one) => one.id === id)?.name
  await work.toast.attempt(async () => {
    await of(api.DELETE('/api/works/{id}', path(id)))
    gone.value = { id, name: name ?? '' }
  })
  await load()
}
const gone = ref<{ id: number; name: string }>()
async function back() {
  await work.toast.attempt(async () => of(api.POST('/api/works/{id}/back', path(gone.value!.id))))
  gone.value = undefined
  await load()
}
const shapes = computed(() => work.making.value?.shapes ?? [])
</script>

<template>
  <div class="begin">
    <button class="drop" @click="emit('choose')">
      <b>Drop pictures here, paste one, or choose</b>
      <span class="soft"
        >A scan, a photo, a page of drawings. No need to cut anything out. PNG, JPEG, WebP, TIFF, GIF, SVG, or layers in
        OpenRaster.</span
      >
    </button>
    <div class="two">
      <section aria-label="Words">
        <h2>Words</h2>
        <form class="line" @submit.prevent="write">
          <el-input v-model="text" aria-label="Text to draw" maxlength="120" /><el-button native-type="submit"
            >Write</el-button
          >
        </form>
        <h2>A shape</h2>
        <div class="options">
          <button
            v-for="one in shapes"
            :key="one.name"
            type="button"
            @click="work.make({ figure: [{ shape: one.name }] })"
          >
            {{ one.name }}
          </button>
        </div>
      </section>
      <section aria-label="In progress">
        <h2>
          In progress <span class="soft">{{ works.length || '' }}</span>
        </h2>
        <p v-if="gone" class="small" role="status">
          “{{ gone.name }}” deleted. <button class="plain" @click="back">Restore</button>
        </p>
        <p v-if="!works.length" class="soft">Your work is saved here automatically, visible only to you.</p>
        <ul>
          <li v-for="one in works" :key="one.id">
            <button class="one" @click="router.push({ query: { work: one.id } })">
              <img v-if="one.page" :src="`/api/works/${one.id}/pages/${one.page}.png`" alt="" loading="lazy" />
              <b>{{ one.name }}</b>
              <span class="soft small">{{ moment(one.at) }}{{ one.pages > 1 ? ` · ${one.pages} pages` : '' }}</span>
            </button>
            <button class="plain small" :aria-label="`Delete ${one.name}`" @click="drop(one.id)">Delete</button>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.begin {
  display: grid;
  gap: 20px;
  grid-template-rows: auto minmax(150px, 1fr);
  height: 100%;
  overflow-y: auto;
  padding: 4px 22px 18px;
}
.drop {
  display: grid;
  gap: 8px;
  place-content: center;
  justify-items: center;
  height: min(210px, 32vh);
  font: inherit;
  color: var(--ink);
  border: 2px dashed var(--line-strong);
  border-radius: 12px;
  background: var(--card);
  cursor: pointer;
}
.drop b {
  font-size: 16px;
}
.drop:hover {
  border-color: var(--accent);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 34px;
  min-height: 0;
}
.two section {
  display: grid;
  gap: 8px;
  align-content: start;
  overflow: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 12px;
}
.one {
  display: grid;
  width: 100%;
  padding: 6px;
  text-align: left;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  cursor: pointer;
}
.one:hover {
  border-color: var(--accent);
}
.one img {
  width: 100%;
  height: 84px;
  object-fit: contain;
  background: #fff;
  border-radius: 4px;
}
.one b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
