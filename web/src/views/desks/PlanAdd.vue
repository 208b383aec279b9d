<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import PresetPicker from '../../parts/PresetPicker.vue'
import { useTray } from '../../stores/tray'
import { atDesk, type Part } from './useDesk'

/** Into the plan: what lies in the tray, a set, a bundle with releases, or a brush found by its name. */
const props = defineProps<{ part: Part }>()
const { library, toast, add } = atDesk()
const tray = useTray()
const picking = ref(false)
const bundles = ref<{ id: number; name: string; of?: string }[]>([])
const title = computed(() => (props.part === 'startup' ? 'the startup' : 'the shelf'))
async function brush(ids: number[]) {
  picking.value = false
  await library.need(ids)
  const found = ids.flatMap((id) => library.byId.get(id) ?? [])
  await add(
    found.map(({ document_id: document, name }) => ({ thing: `brush/${document}`, title: name })),
    props.part,
  )
}
const open = (shown: boolean) =>
  shown &&
  toast.attempt(async () => {
    const own = (await of(api.GET('/api/libraries/{library}/bundles', library.path()))).bundles
    const { proposed } = await of(api.GET('/api/libraries/{library}/follows', library.path()))
    bundles.value = [
      ...own.filter(({ releases }) => releases.some(({ withdrawn }) => !withdrawn)),
      ...proposed.map(({ id, name, library: from }) => ({ id, name, of: from })),
    ]
  })
function choose(what: string) {
  if (what === 'tray') return brush(tray.ids)
  if (what === 'brush') return (picking.value = true)
  const [kind, id] = what.split('/')
  const list: { id: number; name: string }[] = kind === 'set' ? library.sets : bundles.value
  const named = list.find((one) => one.id === Number(id))
  return add([{ thing: what, title: `${kind} “${named?.name}”` }], props.part)
}
</script>

<template>
  <PresetPicker v-if="picking" :label="`A brush for ${title}`" @pick="brush([$event])" @close="picking = false" />
  <el-dropdown v-else trigger="click" max-height="320px" @command="choose" @visible-change="open">
    <button class="plain small" :aria-label="`Add to ${title}`">Add ▾</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item command="brush">A brush by name</el-dropdown-item>
        <el-dropdown-item command="tray" :disabled="!tray.ids.length"
          >The tray ({{ tray.ids.length }})</el-dropdown-item
        >
        <el-dropdown-item v-for="one in bundles" :key="`b${one.id}`" :command="`bundle/${one.id}`"
          >Bundle “{{ one.name }}”{{ one.of ? ` of ${one.of}` : '' }}</el-dropdown-item
        >
        <el-dropdown-item v-for="one in library.sets" :key="`s${one.id}`" :command="`set/${one.id}`"
          >Set “{{ one.name }}”</el-dropdown-item
        >
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
