<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useToast } from '../stores/toast'

/** Where brushes are used, said before something becomes of them. Nothing where they are used nowhere. */
const props = defineProps<{ ids: number[] }>()
const library = useLibrary()
const toast = useToast()
const uses = ref<{ id: number; name: string; places: string[] }[]>([])
void toast.attempt(async () => {
  const asked = { ...library.path(), body: { preset_ids: props.ids } }
  uses.value = (await of(api.POST('/api/libraries/{library}/uses', asked))).uses
})
const used = computed(() => {
  if (props.ids.length === 1) return 'It is used'
  return uses.value.length === 1 ? 'One of them is used' : `${uses.value.length} of them are used`
})
</script>

<template>
  <div v-if="uses.length" class="uses" role="status">
    <b>{{ used }}:</b>
    <ul>
      <li v-for="one in uses.slice(0, 8)" :key="one.id">
        <template v-if="ids.length > 1">{{ one.name }} </template><span class="soft">{{ one.places.join(', ') }}</span>
      </li>
    </ul>
    <span v-if="uses.length > 8" class="soft">and {{ uses.length - 8 }} more</span>
  </div>
</template>

<style scoped>
.uses ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
</style>
