<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { api, of } from '../../api/client'
import type { paths } from '../../api/schema'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import { atDesk } from './useDesk'

/** What is told of a desk or a template beside its plan. */
const emit = defineEmits<{ close: [] }>()
const { desk, library, at, take, toast } = atDesk()
const wish = reactive({ ...desk.value! })
const people = ref<{ id: number; name: string }[]>([])
onMounted(() =>
  toast.attempt(async () => {
    people.value = (await of(api.GET('/api/libraries/{library}/people', library.path()))).people
  }),
)
const PLATFORMS = ['', 'Linux', 'macOS', 'Windows', 'tablet']
const templates = computed(() => library.desks.filter((one) => one.template && one.id !== desk.value!.id))
const number = (value: number | undefined) => value ?? null
type Wish = NonNullable<paths['/api/desks/{id}']['put']['requestBody']>['content']['application/json']
const KEPT = [
  ...(['name', 'platform', 'room', 'person_id', 'parent_id', 'canvas_width', 'canvas_height', 'away'] as const),
  ...(['key_count', 'memory_limit', 'start_limit'] as const),
]
const { busy, problem, go } = useDeed(async () => {
  const body = Object.fromEntries(KEPT.map((key) => [key, wish[key]])) as Wish
  take(await of(api.PUT('/api/desks/{id}', { ...at(), body })))
  await library.load()
  emit('close')
})
</script>

<template>
  <FormDialog
    :title="`About ${desk!.name}`"
    deed="Save"
    width="560px"
    :busy="busy"
    :problem="problem"
    :ready="!!wish.name.trim()"
    @submit="go"
    @close="emit('close')"
  >
    <div class="fields">
      <label>Name<el-input v-model="wish.name" maxlength="60" /></label>
      <label
        >Template
        <el-select
          :model-value="wish.parent_id ?? 0"
          aria-label="Template"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
          @update:model-value="wish.parent_id = $event || null"
        >
          <el-option :value="0" label="Nothing" />
          <el-option v-for="one in templates" :key="one.id" :value="one.id" :label="one.name" /> </el-select
      ></label>
      <template v-if="!desk!.template">
        <label
          >Person
          <el-select
            :model-value="wish.person_id ?? 0"
            aria-label="Person"
            size="small"
            class="inline-select"
            :empty-values="[undefined]"
            @update:model-value="wish.person_id = $event || null"
          >
            <el-option :value="0" label="Nobody" />
            <el-option v-for="one in people" :key="one.id" :value="one.id" :label="one.name" /> </el-select
        ></label>
        <label>Room<el-input v-model="wish.room" maxlength="60" /></label>
        <label
          >System
          <el-select
            v-model="wish.platform"
            aria-label="System"
            size="small"
            class="inline-select"
            :empty-values="[undefined]"
          >
            <el-option v-for="one in PLATFORMS" :key="one" :value="one" :label="one || 'not set'" /> </el-select
        ></label>
        <label
          >Computer
          <el-select
            v-model="wish.away"
            aria-label="Computer"
            size="small"
            class="inline-select"
            :empty-values="[undefined]"
          >
            <el-option :value="false" :label="`This server: ${desk!.path}`" />
            <el-option :value="true" label="Another computer, with an agent" /> </el-select
        ></label>
        <label
          >Canvas, px
          <span class="line"
            ><el-input-number
              :model-value="wish.canvas_width ?? undefined"
              :min="1"
              :max="100000"
              :controls="false"
              aria-label="Width of the canvas"
              @update:model-value="wish.canvas_width = number($event)" />
            ×
            <el-input-number
              :model-value="wish.canvas_height ?? undefined"
              :min="1"
              :max="100000"
              :controls="false"
              aria-label="Height of the canvas"
              @update:model-value="wish.canvas_height = number($event)" /></span
        ></label>
      </template>
      <label
        >Keys for brushes<el-input-number v-model="wish.key_count" :min="0" :max="200" :precision="0" :controls="false"
      /></label>
      <label v-if="!desk!.template"
        >Memory limit, MB<el-input-number
          :model-value="wish.memory_limit ?? undefined"
          :min="1"
          :max="1000000"
          :controls="false"
          @update:model-value="wish.memory_limit = number($event)"
      /></label>
      <label v-if="!desk!.template"
        >Start time limit, ms<el-input-number
          :model-value="wish.start_limit ?? undefined"
          :min="1"
          :max="1000000"
          :controls="false"
          @update:model-value="wish.start_limit = number($event)"
      /></label>
    </div>
  </FormDialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 16px;
}
label {
  display: grid;
  gap: 3px;
}
.el-input-number {
  width: 100%;
}
</style>
