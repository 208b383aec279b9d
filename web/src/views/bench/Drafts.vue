<script setup lang="ts">
import OneScale from '../../parts/OneScale.vue'
import Strip from '../../parts/Strip.vue'
import { moment } from '../../parts/when'
import { useDrafts } from './useDrafts'

/** Everything this person tuned and has not saved yet: the Bench without a brush. */
const { rows, ids, discard } = useDrafts()
</script>

<template>
  <div class="page">
    <div class="line head">
      <h1>Drafts</h1>
      <span class="soft">Unsaved changes, visible only to you.</span><span class="grow" /><el-button
        v-if="ids.length > 1"
        @click="discard(ids)"
        >Discard all {{ ids.length }}</el-button
      >
    </div>
    <OneScale v-for="row in rows" :key="row.id"
      ><div class="row">
        <div>
          <router-link :to="{ name: 'bench', params: { id: row.id } }">{{ row.name }}</router-link><br /><span
            class="soft small"
            >{{ moment(row.at) }}</span
          >
        </div>
        <Strip :fingerprint="row.after" :greatest="row.greatest[1]" :label="`${row.name}, version ${row.to}`" /><span
          class="soft"
          aria-hidden="true"
          >→</span
        ><Strip :fingerprint="row.before" :greatest="row.greatest[0]" :label="`${row.name}, your draft`" />
        <span class="small words">{{ row.tuned.join(', ') }}</span>
        <el-button size="small" :aria-label="`Discard the draft of ${row.name}`" @click="discard([row.id])"
          >Discard</el-button
        >
      </div></OneScale
    >
    <div v-if="rows && !rows.length" class="empty">
      <p>No drafts. Open a brush and change a setting: it’s saved here automatically.</p>
      <el-button @click="$router.push({ name: 'brushes' })">Go to Brushes</el-button>
    </div>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 10px;
}
.row {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) 14px minmax(0, 1fr) 200px auto;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.row a {
  font-weight: 700;
  color: var(--accent);
}
.words {
  max-height: 54px;
  overflow: auto;
}
</style>
