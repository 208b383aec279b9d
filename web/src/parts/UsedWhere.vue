<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../api/client'
import type { components } from '../api/schema'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'

type Link = components['schemas']['UseLink']
type Use = { id: number; name: string; links: Link[] }
/** Where brushes are used, said before something becomes of them; its lines are there at once, so no button moves. */
const props = defineProps<{ ids: number[] }>()
const library = useLibrary()
const toast = useToast()
const uses = ref<Use[]>()
void toast.attempt(async () => {
  const asked = { ...library.path(), body: { preset_ids: props.ids } }
  uses.value = (await of(api.POST('/api/libraries/{library}/uses', asked))).uses
})
/** The query by which a view shows one of its things. */
const QUERIES = { bundles: 'bundle', sets: 'set', desks: 'desk' } as const
const to = ({ view, target }: Link) => view && { name: view, query: { [QUERIES[view]]: String(target) } }
const used = computed(() => {
  if (props.ids.length === 1) return 'It is used'
  if (!uses.value?.length) return 'They are used'
  return uses.value.length === 1 ? 'One of them is used' : `${uses.value.length} of them are used`
})
</script>

<template>
  <div class="uses" role="status">
    <b>{{ used }}:</b>
    <ul>
      <li v-if="!uses?.length" class="soft">{{ uses ? 'nowhere yet' : '–' }}</li>
      <li v-for="one in uses?.slice(0, 8)" :key="one.id">
        <template v-if="ids.length > 1">{{ one.name }} </template><span class="soft"
          ><template v-for="(link, index) in one.links" :key="index"
            >{{ index ? ', ' : '' }}<RouterLink v-if="to(link)" :to="to(link)!">{{ link.text }}</RouterLink
            ><template v-else>{{ link.text }}</template></template
          ></span
        >
      </li>
    </ul>
    <span v-if="uses && uses.length > 8" class="soft">and {{ uses.length - 8 }} more</span>
  </div>
</template>

<style scoped>
.uses ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
</style>
