<script setup lang="ts">
import { computed, ref } from 'vue'
import type { components } from '../../api/schema'
import { api, of } from '../../api/client'
import { useDeed } from '../../parts/useDeed'
import { moment } from '../../parts/when'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import OnPad from './OnPad.vue'

/** A proposed brush above what it would replace or resembles, and what is decided about it. */
type Detail = components['schemas']['ProposalDetail']
const props = defineProps<{ proposal: Detail; item: Detail['items'][number]; sample: string; leads: boolean }>()
const emit = defineEmits<{ decided: [] }>()
const library = useLibrary()
const toast = useToast()
const onPad = ref(false)
const way = ref<'new' | 'version' | 'return'>()
const name = ref('')
const tags = ref<string[]>([])
const category = ref<number | ''>('')
const set = ref<number | ''>('')
const target = ref<number>()
const reason = ref('')
const like = computed(() => props.item.resembles.find(({ id }) => id === target.value))
const strip = (beside?: number) => {
  const query = new URLSearchParams({
    ...(beside ? { beside: String(beside) } : {}),
    ...(props.sample ? { sample: props.sample } : {}),
  })
  return `/api/proposals/${props.proposal.id}/items/${props.item.id}/strip.png?${query}`
}
function begin(how: typeof way.value, id?: number) {
  way.value = how
  target.value = id
  name.value = props.item.name
}
const plain = computed(() => library.sets.filter(({ query }) => query === null))

const { busy, problem, go } = useDeed(async () => {
  const { entry } = await of(
    api.POST('/api/proposals/{id}/items/{item}', {
      params: { path: { id: props.proposal.id, item: props.item.id } },
      body: {
        as: way.value!,
        reason: reason.value,
        ...(way.value === 'new'
          ? { name: name.value, tags: tags.value, category_id: category.value || null, set_id: set.value || null }
          : {}),
        ...(way.value === 'version' ? { preset_id: target.value!, base: like.value!.version } : {}),
      },
    }),
  )
  way.value = undefined
  await library.load()
  toast.done(`${entry.summary}.`, entry)
  emit('decided')
})
const deed = computed(
  () => ({ new: 'Accept as new brush', version: 'Accept as next version', return: 'Return with a reason' })[way.value!],
)
const outcome = computed(() => {
  const { state, decided_by: by, decided_at: at, version, reason: why } = props.item
  if (state === 'open') return ''
  const what =
    state === 'returned' ? 'returned' : version === 1 ? 'accepted as new brush' : `accepted as version ${version}`
  return `${what} by ${by}, ${moment(at)}${why ? `: ${why}` : ''}`
})
</script>

<template>
  <article :aria-label="item.name">
    <div class="line">
      <b>{{ item.name }}</b>
      <span class="soft"
        >{{ item.size }} px · from {{ item.came_from.library_name }}, version {{ item.came_from.version
        }}{{ item.came_from.draft ? ', with an unsaved change' : '' }}</span
      >
      <span class="grow" /><span v-if="outcome" :class="item.state === 'returned' ? 'missing' : 'soft'">{{
        outcome
      }}</span>
    </div>
    <div class="row">
      <img class="strip-of" :src="strip()" :alt="`${item.name}, as proposed`" /><span class="small"
        ><span class="soft">as proposed</span><br /><button class="plain" @click="onPad = true">
          Try on the pad…
        </button></span
      >
    </div>
    <template v-if="item.state === 'open'">
      <div v-for="one in item.resembles" :key="one.id" class="row">
        <img class="strip-of" :src="strip(one.id)" :alt="`${one.name}, as it is here`" />
        <span class="small"
          ><b>{{ one.name }}</b
          >, version {{ one.version }}: {{ one.why }}<br /><span class="soft"
            >{{ one.words.slice(0, 6).join(' · ') || 'paints the same'
            }}{{ one.words.length > 6 ? ` and ${one.words.length - 6} more` : '' }}</span
          ><br /><button v-if="leads && one.words.length" class="plain" @click="begin('version', one.id)">
            Accept as version {{ one.version + 1 }}
          </button>
          <router-link :to="{ name: 'bench', params: { id: one.id } }">Try on the Bench</router-link></span
        >
      </div>
      <p v-if="!item.resembles.length" class="soft small">Nothing here is similar.</p>
      <div v-if="leads && !way" class="line">
        <el-button size="small" @click="begin('new')">Accept as new brush</el-button>
        <el-button size="small" @click="begin('return')">Return</el-button>
      </div>
      <form v-if="way" @submit.prevent="go">
        <template v-if="way === 'new'">
          <label>Name<el-input v-model="name" maxlength="100" /></label>
          <label
            >Tags<el-select v-model="tags" multiple filterable allow-create default-first-option aria-label="Tags"
              ><el-option v-for="one in library.tags" :key="one.id" :value="one.name" :label="one.name" /></el-select
          ></label>
          <label
            >Category
            <el-select
              v-model="category"
              aria-label="Category"
              size="small"
              class="inline-select"
              :empty-values="[undefined]"
            >
              <el-option value="" label="None" />
              <el-option
                v-for="one in library.categories"
                :key="one.id"
                :value="one.id"
                :label="one.name"
              /> </el-select
          ></label>
          <label
            >Set
            <el-select v-model="set" aria-label="Set" size="small" class="inline-select" :empty-values="[undefined]">
              <el-option value="" label="None" />
              <el-option v-for="one in plain" :key="one.id" :value="one.id" :label="one.name" /> </el-select
          ></label>
        </template>
        <p v-if="way === 'version'">
          “{{ like?.name }}” gets these settings as version {{ (like?.version ?? 0) + 1 }}. Its name and category stay.
        </p>
        <label
          >{{ way === 'return' ? 'Why' : 'Message'
          }}<el-input v-model="reason" v-focus maxlength="2000" :placeholder="way === 'return' ? '' : 'optional'"
        /></label>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <div class="line">
          <el-button type="primary" native-type="submit" :loading="busy">{{ deed }}</el-button><button
            type="button"
            class="plain"
            @click="way = undefined"
          >
            Cancel
          </button>
        </div>
      </form>
    </template>
    <OnPad
      v-if="onPad"
      :proposal="proposal.id"
      :item="item.id"
      :name="item.name"
      :sample="sample"
      @close="onPad = false"
    />
  </article>
</template>

<style scoped>
article {
  padding: 12px 0;
  border-top: 1px solid var(--line);
  display: grid;
  gap: 8px;
}
.row {
  display: grid;
  grid-template-columns: minmax(240px, 420px) minmax(0, 1fr);
  gap: 14px;
  align-items: center;
}
form {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 260px));
  gap: 10px 16px;
  padding: 10px 14px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 9px;
  justify-self: start;
}
form > p,
form > .line {
  grid-column: 1 / 3;
  margin: 0;
}
label {
  display: grid;
  gap: 3px;
}
.problem {
  color: var(--madder);
}
</style>
