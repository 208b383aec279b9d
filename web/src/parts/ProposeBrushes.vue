<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, of } from '../api/client'
import { useLibrary } from '../stores/library'
import { useSession } from '../stores/session'
import { useToast } from '../stores/toast'
import FormDialog from './FormDialog.vue'
import { useDeed } from './useDeed'

/** Brushes go to another library: proposed, with a sentence, or taken there where one may. */
const props = defineProps<{ ids: number[]; drafts?: boolean; takes?: boolean }>()
const emit = defineEmits<{ close: []; done: [] }>()
const session = useSession()
const library = useLibrary()
const toast = useToast()
const places = computed(() =>
  session.libraries.filter(
    (one) =>
      !one.archived && one.role !== 'guest' && (props.takes ? one.id !== session.libraryId : one.kind !== 'stock'),
  ),
)
const target = ref(places.value.find(({ id }) => id === session.libraryId)?.id ?? places.value[0]?.id)
const sentence = ref('')
const count = computed(() => (props.ids.length === 1 ? 'this brush' : `these ${props.ids.length} brushes`))
const named = () => session.libraries.find(({ id }) => id === target.value)?.name

const { busy, problem, go } = useDeed(async () => {
  const params = { path: { library: target.value! } }
  if (props.takes) {
    const { entry, here } = await of(
      api.POST('/api/libraries/{library}/taken', { params, body: { preset_ids: props.ids } }),
    )
    toast.done([`${entry.summary}.`, here.length ? `Already there: ${here.join(', ')}.` : ''].join(' '))
  } else {
    const body = { preset_ids: props.ids, drafts: !!props.drafts, sentence: sentence.value }
    await of(api.POST('/api/libraries/{library}/proposals', { params, body }))
    toast.done(`Proposed to “${named()}”. Its leads are notified, and you’ll hear what they decide.`)
    await library.load()
  }
  emit('done')
  emit('close')
})
</script>

<template>
  <FormDialog
    :title="takes ? `Copy ${count} to another library` : `Propose ${count}`"
    :deed="takes ? 'Copy' : 'Propose'"
    :busy="busy"
    :ready="!!target"
    :problem="problem"
    @submit="go"
    @close="emit('close')"
  >
    <p v-if="!places.length">You can’t add brushes to any other library.</p>
    <template v-else>
      <label
        >{{ takes ? 'Into' : 'To' }}
        <el-select
          v-model="target"
          :aria-label="takes ? 'Into which library' : 'To which library'"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
        >
          <el-option v-for="one in places" :key="one.id" :value="one.id" :label="one.name" />
        </el-select>
      </label>
      <label v-if="!takes"
        >Why<el-input
          v-model="sentence"
          type="textarea"
          :rows="2"
          maxlength="2000"
          placeholder="What it’s good for, and what it should replace"
      /></label>
      <p class="soft small">
        {{
          takes
            ? 'Each copy remembers where it came from. Later changes here don’t affect it.'
            : 'Nothing is published yet: a lead reviews it and decides. It is proposed as it is now' +
              (drafts ? ', with your unsaved change.' : '.')
        }}
      </p>
    </template>
  </FormDialog>
</template>
