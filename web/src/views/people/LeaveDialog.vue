<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'
import type { Member } from './People.vue'

/** Somebody leaves the library: what stays is said before. */
const props = defineProps<{ member: Member; people: Member[] }>()
const emit = defineEmits<{ close: []; left: [] }>()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const mine = computed(() => props.member.id === session.person?.id)
const others = computed(() => props.people.filter(({ id, role }) => id !== props.member.id && role !== 'guest'))
const heir = ref<number | ''>('')
const { busy, problem, go } = useDeed(async () => {
  const { params } = library.path()
  const { entry } = mine.value
    ? await of(api.POST('/api/libraries/{library}/leave', { params }))
    : await of(
        api.DELETE('/api/libraries/{library}/people/{item}', {
          params: { path: { ...params.path, item: props.member.id } },
          body: { drafts_to: heir.value || null },
        }),
      )
  toast.done(`${entry.summary}.`)
  emit('left')
})
</script>

<template>
  <FormDialog
    :title="mine ? `Leave ${session.library?.name}` : `Remove ${member.name} from ${session.library?.name}`"
    :deed="mine ? 'Leave' : 'Remove'"
    danger
    :busy="busy"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <p>
      All that {{ mine ? 'you' : 'they' }} made stays in the library. {{ mine ? 'You come' : 'They come' }} back only
      with a new invitation.
    </p>
    <label v-if="!mine && member.drafts"
      >Their drafts of {{ member.drafts }} {{ member.drafts === 1 ? 'brush' : 'brushes' }}
      <el-select
        v-model="heir"
        aria-label="Who gets their drafts"
        size="small"
        class="inline-select"
        :empty-values="[undefined]"
      >
        <el-option value="" label="are kept for their return" />
        <el-option v-for="one in others" :key="one.id" :value="one.id" :label="`go to ${one.name}`" />
      </el-select>
    </label>
  </FormDialog>
</template>
