<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, of, type Category } from '../../api/client'
import ExportDialog from '../../parts/ExportDialog.vue'
import { useLibrary } from '../../stores/library'
import DropDialog from './DropDialog.vue'
import { useGroups } from './useGroups'

/** Categories as a small tree; each brush has one. */
const library = useLibrary()
const { doing, drop, dropping, count } = useGroups()
const fresh = reactive({ name: '', parent: 0 })
const category = ref<Category>()
const exporting = ref<(typeof library.branches)[number]>()
const at = (id: number) => ({ params: { path: { id } } })
/** How many brushes hang on these categories. */
const held = (ids: number[]) => ids.reduce((sum, id) => sum + count('categories', id), 0)

const add = () =>
  doing(async () => {
    const body = { name: fresh.name, parent_id: fresh.parent || null }
    await of(api.POST('/api/libraries/{library}/categories', { ...library.path(), body }))
    fresh.name = ''
  })
const save = () =>
  doing(async () => {
    const { id, name, parent_id } = category.value!
    await of(api.PUT('/api/categories/{id}', { ...at(id), body: { name, parent_id } }))
    category.value = undefined
  })
const remove = (one: Category) => drop('category', one.name, () => of(api.DELETE('/api/categories/{id}', at(one.id))))
/** One place up or down among those beside it. */
const shift = (one: Category, step: number) =>
  doing(async () => {
    const beside = library.categories.filter(({ parent_id }) => parent_id === one.parent_id)
    const from = beside.findIndex(({ id }) => id === one.id)
    const next = [...beside]
    next.splice(from + step, 0, next.splice(from, 1)[0]!)
    for (const [position, { id, name }] of next.entries())
      await of(api.PUT('/api/categories/{id}', { ...at(id), body: { name, position } }))
  })
</script>

<template>
  <section aria-label="Categories">
    <h1>Categories</h1>
    <p class="soft">Each brush has one category. Categories order the brushes, so names need no prefixes.</p>
    <div
      v-for="one in library.branches"
      :key="one.category.id"
      class="item"
      :style="{ paddingLeft: `${one.depth * 16}px` }"
    >
      <form v-if="category?.id === one.category.id" class="line" @submit.prevent="save">
        <el-input v-model="category.name" size="small" aria-label="Name of the category" maxlength="60" /><el-select
          v-model="category.parent_id"
          size="small"
          aria-label="Parent category"
          ><el-option :value="null as never" label="top level" /><el-option
            v-for="other in library.branches.filter(({ category: o }) => !one.ids.includes(o.id))"
            :key="other.category.id"
            :value="other.category.id"
            :label="`in ${other.category.name}`" /></el-select
        ><el-button size="small" native-type="submit">Save</el-button>
      </form>
      <template v-else
        ><b>{{ one.category.name }}</b
        ><span class="soft">{{ held(one.ids) }}</span
        ><span class="grow" /><button
          v-if="held(one.ids)"
          class="plain"
          :aria-label="`Export the category ${one.category.name}`"
          @click="exporting = one"
        >
          Export</button
        ><button class="plain" :aria-label="`Move ${one.category.name} up`" @click="shift(one.category, -1)">↑</button
        ><button class="plain" :aria-label="`Move ${one.category.name} down`" @click="shift(one.category, 1)">↓</button
        ><button class="plain" @click="category = { ...one.category }">Change</button
        ><button class="plain" :aria-label="`Remove the category ${one.category.name}`" @click="remove(one.category)">
          ✕
        </button></template
      >
    </div>
    <form class="line add" @submit.prevent="add">
      <el-input
        v-model="fresh.name"
        size="small"
        placeholder="Name of a new category"
        aria-label="Name of a new category"
        maxlength="60"
      /><el-select v-model="fresh.parent" size="small" aria-label="Parent of the new category"
        ><el-option :value="0" label="top level" /><el-option
          v-for="one in library.branches"
          :key="one.category.id"
          :value="one.category.id"
          :label="`in ${one.category.name}`" /></el-select
      ><el-button size="small" native-type="submit" :disabled="!fresh.name.trim()">Add</el-button>
    </form>
    <ExportDialog
      v-if="exporting"
      :which="{ category: exporting.category.id }"
      :count="held(exporting.ids)"
      :title="exporting.category.name"
      @close="exporting = undefined"
    />
    <DropDialog v-if="dropping" :dropping="dropping" @close="dropping = undefined" />
  </section>
</template>
