<script setup lang="ts">
import { computed } from 'vue'
import { methods } from './settings'
import { onBench } from './useBench'
import OwnWord from '../../parts/OwnWord.vue'

/** How the stroke is built. */
const bench = onBench()
const { document } = bench
/** A ribbon bends a drawing; a round tip has none. */
const possible = (method: string) => method !== 'ribbon' || document.value!.tip.form.kind !== 'round'
const list = computed(() => methods().choices.map((name) => ({ name, possible: possible(name) })))
const choose = (method: string) => bench.tune({ ...document.value!, method })
</script>

<template>
  <el-select
    v-if="bench.session.mayEdit"
    :model-value="document!.method"
    aria-label="Method"
    :title="methods().help"
    size="small"
    class="inline-select"
    :empty-values="[undefined]"
    @update:model-value="choose"
  >
    <el-option
      v-for="one in list"
      :key="one.name"
      :value="one.name"
      :disabled="!one.possible"
      :label="`${one.name}${one.possible ? '' : ' (needs a drawn tip)'}`"
    />
  </el-select>
  <OwnWord v-else class="soft" :word="document!.method" />
  <OwnWord v-if="bench.session.mayEdit && document!.method !== 'dabs'" class="soft" :word="document!.method">?</OwnWord>
</template>

<style scoped>
.inline-select.el-select {
  width: 78px;
  padding: 1px 2px;
}
</style>
