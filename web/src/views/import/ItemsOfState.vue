<script setup lang="ts">
import { computed, ref } from 'vue'
import type { ImportItem } from '../../api/client'
import OneScale from '../../parts/OneScale.vue'
import Strip from '../../parts/Strip.vue'
import { titled, words } from '../../stores/words'

/** Things of one state in an import: what each would become, and what can be decided. */
const props = defineProps<{ incoming: number; state: ImportItem['state']; title: string; items: ImportItem[] }>()
const emit = defineEmits<{ all: [decision: string]; one: [item: ImportItem, decision: string] }>()
const MOST = 400
const open = ref(false)
const called = (decision: string) => titled(words.value.plan.decisions, decision)
/** What all of them are decided to be, if they agree. */
const agreed = computed(() => {
  const first = props.items[0]!.decision
  return props.items.every(({ decision }) => decision === first) ? first : ''
})
/** What every one of them can be. */
const common = computed(() =>
  props.items[0]!.choices.filter((one) => props.items.every(({ choices }) => choices.includes(one))),
)
/** What a person should know of a thing before they decide. */
function told(item: ImportItem) {
  if (item.sentence) return item.sentence
  const { here } = item
  const same = props.state === 'identical'
  return [
    item.decision !== 'leave' && item.becomes !== item.name && `imported as “${item.name}”`,
    here && !same && `here: “${here.name}”, version ${here.version}`,
    here && same && here.name !== item.name && `here as “${here.name}”`,
    item.twin && 'twice in this import',
    item.unknown.length && `kept, but unknown to this version: ${item.unknown.join(', ')}`,
  ]
    .filter(Boolean)
    .join('; ')
}
</script>

<template>
  <section class="kind" :aria-label="title">
    <div class="line title">
      <h2>{{ title }}</h2>
      <span class="soft">{{ items.length }}</span>
      <label v-if="items.length > 1 && common.length > 1" class="line all"
        ><span class="soft">all of these:</span
        ><el-select
          :model-value="agreed"
          :aria-label="`All: ${title}`"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
          @update:model-value="emit('all', $event)"
        >
          <el-option v-if="!agreed" value="" disabled label="As set below" />
          <el-option v-for="one in common" :key="one" :value="one" :label="called(one)" /> </el-select
      ></label>
    </div>
    <div v-if="items.some(({ here }) => here) && state !== 'identical'" class="item heads soft small" :class="state">
      <span>as imported</span><span>as it is here</span>
    </div>
    <OneScale v-for="item in open ? items : items.slice(0, MOST)" :key="item.id"
      ><div class="item" :class="[state, { left: item.decision === 'leave' }]">
        <Strip
          v-if="item.fingerprint && state !== 'lacking'"
          :greatest="item.here?.greatest?.[0]"
          :src="`/api/imports/${incoming}/strips/${item.id}.png`"
          :label="`${item.name}, as it came`"
          lazy
        /><span v-else />
        <Strip
          v-if="item.here && state !== 'identical'"
          :fingerprint="item.here.fingerprint"
          :greatest="item.here.greatest?.[1]"
          :label="`${item.here.name}, as it is here`"
          lazy
        /><span v-else class="soft small gap" />
        <div class="said">
          <b>{{ item.decision === 'leave' ? item.name : item.becomes }}</b>
          <span v-if="item.size" class="soft small">{{ item.size }} px</span>
          <div class="soft small">
            {{ told(item) }}
          </div>
        </div>
        <el-select
          v-if="item.choices.length > 1"
          :model-value="item.decision"
          :aria-label="`What to do with ${item.name}`"
          size="small"
          class="inline-select"
          :empty-values="[undefined]"
          @update:model-value="emit('one', item, $event)"
        >
          <el-option v-for="one in item.choices" :key="one" :value="one" :label="called(one)" />
        </el-select>
        <span v-else class="soft small">{{ state === 'identical' ? 'skipped' : called(item.decision) }}</span>
      </div></OneScale
    >
    <button v-if="items.length > MOST && !open" class="plain" @click="open = true">Show all {{ items.length }}</button>
  </section>
</template>

<style scoped>
.said > b {
  margin-right: 6px;
}
.kind {
  margin-bottom: 14px;
}
.title {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.all {
  margin-left: auto;
}
.item {
  display: grid;
  grid-template-columns: 220px 220px minmax(140px, 1fr) 178px;
  gap: 14px;
  align-items: center;
  padding: 4px 0;
}
.new .gap,
.identical .gap {
  display: none;
}
.item.new,
.item.identical {
  grid-template-columns: 220px minmax(140px, 1fr) 178px;
}
.item.unreadable,
.item.future,
.item.lacking,
.item.aside {
  grid-template-columns: minmax(140px, 1fr) 178px;
}
.unreadable > span:empty,
.future > span:empty,
.lacking > span:empty,
.aside > span:empty {
  display: none;
}
.heads {
  padding: 3px 0 0;
}
.item.left .strip:first-child {
  opacity: 0.5;
}
.said {
  overflow-wrap: anywhere;
}
.all .inline-select {
  width: 178px;
}
</style>
