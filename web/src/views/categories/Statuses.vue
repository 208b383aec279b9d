<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of, type Status } from '../../api/client'
import TagMark from '../../parts/TagMark.vue'
import { useLibrary } from '../../stores/library'
import { words } from '../../stores/words'
import DropDialog from './DropDialog.vue'
import { useGroups } from './useGroups'

/** How far a brush has come, in the studio's own words. */
const library = useLibrary()
const { doing, drop, dropping, count } = useGroups()
const looks = computed(() => words.value.looks)
const fresh = ref('')
const changing = ref<Status>()
const at = (id: number) => ({ params: { path: { id } } })

const add = () =>
  doing(async () => {
    await of(api.POST('/api/libraries/{library}/statuses', { ...library.path(), body: { name: fresh.value } }))
    fresh.value = ''
  })
const save = () =>
  doing(async () => {
    const { id, name, colour, shape } = changing.value!
    await of(api.PUT('/api/statuses/{id}', { ...at(id), body: { name, colour, shape } }))
    changing.value = undefined
  })
const remove = (one: Status) => drop('status', one.name, () => of(api.DELETE('/api/statuses/{id}', at(one.id))))
</script>

<template>
  <section aria-label="Statuses">
    <h1>Statuses</h1>
    <p class="soft">How far along a brush is, in your studio’s terms.</p>
    <div v-for="one in library.statuses" :key="one.id" class="item">
      <form v-if="changing?.id === one.id" class="line" @submit.prevent="save">
        <el-input v-model="changing.name" size="small" aria-label="Name of the status" maxlength="40" /><el-select
          v-model="changing.colour"
          size="small"
          aria-label="Colour"
          ><el-option v-for="c in looks.colours" :key="c" :value="c" :label="c" /></el-select
        ><el-select v-model="changing.shape" size="small" aria-label="Shape"
          ><el-option v-for="c in looks.shapes" :key="c" :value="c" :label="c" /></el-select
        ><el-button size="small" native-type="submit">Save</el-button>
      </form>
      <template v-else
        ><TagMark state :tag="one" /><span class="soft">{{ count('statuses', one.id) }}</span
        ><span class="grow" /><button class="plain" @click="changing = { ...one }">Change</button
        ><button class="plain" :aria-label="`Remove the status ${one.name}`" @click="remove(one)">✕</button></template
      >
    </div>
    <form class="line add" @submit.prevent="add">
      <el-input
        v-model="fresh"
        size="small"
        placeholder="Name of a new status"
        aria-label="Name of a new status"
        maxlength="40"
      /><el-button size="small" native-type="submit" :disabled="!fresh.trim()">Add</el-button>
    </form>
    <DropDialog v-if="dropping" :dropping="dropping" @close="dropping = undefined" />
  </section>
</template>
