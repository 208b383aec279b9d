<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, asFile, of, type Import } from '../../api/client'
import Strip from '../../parts/Strip.vue'
import { useArrival } from '../../stores/arrival'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import { useToast } from '../../stores/toast'

const arrival = useArrival()
const library = useLibrary()
const session = useSession()
const toast = useToast()
const router = useRouter()
const file = shallowRef<File>()
const plan = ref<Import>()
const result = ref<Import>()
const problem = ref('')
const busy = ref(false)
const input = ref<HTMLInputElement>()
const shown = computed(() => result.value ?? plan.value)
const count = (does: string) => shown.value?.items.filter((item) => item.does === does).length ?? 0
const coming = computed(() => count('new') + count('renamed'))
const words = { new: 'new', identical: 'already here, skipped', renamed: 'same name, other stroke: kept under the next number' }

const send = (query: { plan?: boolean }) => of(api.POST('/api/libraries/{library}/imports', { params: { ...library.path().params, query: { file: file.value!.name, ...query } }, ...asFile(file.value!) }))

async function take(chosen: File | undefined | null) {
  if (!chosen) return
  file.value = chosen
  plan.value = result.value = undefined
  problem.value = ''
  busy.value = true
  try {
    plan.value = await send({ plan: true })
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
watch(() => arrival.parcel, (dropped) => { take(dropped); arrival.parcel = undefined }, { immediate: true })

async function apply() {
  busy.value = true
  await toast.attempt(async () => {
    result.value = await send({})
    await library.load()
    if (result.value.entry) toast.done(`Taken in. ${result.value.entry.summary}`, result.value.entry)
    else toast.done('Everything in this package is here already. Nothing was added.')
  })
  busy.value = false
}
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Intake</h1>
      <span class="soft">Packages come in here. First you see what would happen; nothing that is here is touched.</span>
    </div>
    <input ref="input" type="file" accept=".zip" hidden aria-label="Choose a package" @change="take(input?.files?.[0])" />
    <button class="drop" :class="{ low: shown || problem }" @click="input?.click()"><b>Drop a package here, or choose one</b><span class="soft">A file ending in .fobrel.zip</span></button>
    <p v-if="busy && !plan" class="soft" role="status">Reading {{ file?.name }}…</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>

    <template v-if="shown">
      <div class="line head">
        <h2>{{ shown.name || file?.name }} <span class="soft">{{ shown.version }}{{ shown.author ? `, by ${shown.author}` : '' }}</span></h2>
        <span class="grow" />
        <span role="status">{{ result ? 'Done: ' : '' }}{{ coming }} to take in, {{ count('identical') }} already here</span>
        <el-button v-if="!result" type="primary" :loading="busy" @click="apply">Take into {{ session.library?.name }}</el-button>
        <el-button v-else @click="router.push({ name: 'wall' })">See the Wall</el-button>
      </div>
      <p class="soft">{{ shown.pictures }} pictures{{ shown.sets.length ? `; sets: ${shown.sets.join(', ')}` : '' }}{{ shown.tags.length ? `; tags: ${shown.tags.join(', ')}` : '' }}</p>
      <div v-for="item in shown.items" :key="item.fingerprint + item.name" class="item" :class="item.does">
        <Strip v-if="result || item.strip" :src="item.strip ?? undefined" :fingerprint="item.fingerprint" :label="item.name" />
        <b>{{ item.becomes }}</b>
        <span :class="item.does === 'renamed' ? 'changed' : 'soft'">{{ words[item.does] }}{{ item.becomes !== item.name ? ` (came as “${item.name}”)` : '' }}</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.head { margin-bottom: 12px; }
.drop { display: grid; gap: 6px; place-content: center; justify-items: center; width: 100%; height: 260px; margin-bottom: 16px; font: inherit; color: var(--ink); border: 2px dashed var(--line-strong); border-radius: 12px; background: var(--card); cursor: pointer; }
.drop.low { height: 74px; }
.drop:hover { border-color: var(--accent); }
.item { display: grid; grid-template-columns: 300px 200px 1fr; gap: 14px; align-items: center; padding: 4px 0; }
.item.identical .strip { opacity: .55; }
.item .changed { justify-self: start; }
.problem { color: var(--madder); background: var(--madder-wash); padding: 9px 12px; border-radius: 7px; }
</style>
