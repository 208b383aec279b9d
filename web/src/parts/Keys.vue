<script setup lang="ts">
import { BENCH_KEYS } from '../views/bench/keys'

/** The keys, and what the search line understands. */
const open = defineModel<boolean>()
const keys = [
  ['/, then ↓', 'Find a brush; into the list of what was found'],
  ['↑ ↓, Page ↑ ↓, Home, End', 'Move through the brushes'],
  ['Space', 'Select or deselect'],
  ['Shift with ↑ ↓ or a click', 'Select a range'],
  ['Ctrl with a click', 'Add to the selection'],
  ['Ctrl A', 'Select all found'],
  ['Enter', 'Open on the Bench'],
  ['Esc', 'Close what is open'],
  ['?', 'This list'],
]
const terms = [
  ['tag: lineart, sea', 'any of these tags or their synonyms'],
  ['category: washes', 'a category and its subcategories'],
  ['status: to check', 'a status'],
  ['trait: grain', 'what the brush does'],
  ['set: Line kit', 'in this set'],
  ['library: Second unit', 'in another library of yours'],
  ['size: under 60', 'px; also 40, over 20, 20 to 60'],
  ['author: maren', 'who made it'],
  ['changed: this week', 'also today, this month, since 2026-11-01, before …'],
  ['used in: nothing', 'or the name of a set or a desk'],
  ['licence: none', 'or a part of its name'],
  ['is: draft', 'also changed, favourite, recent, locked, untagged, without notes'],
]
</script>

<template>
  <el-dialog v-model="open" title="Keys" width="760px">
    <div class="two">
      <div>
        <h3>Everywhere, and in Brushes</h3>
        <dl>
          <template v-for="[key, does] in keys" :key="key"
            ><dt>
              <kbd>{{ key }}</kbd>
            </dt>
            <dd>{{ does }}</dd></template
          >
        </dl>
      </div>
      <div>
        <h3>On the Bench</h3>
        <dl>
          <template v-for="[key, does] in BENCH_KEYS" :key="key"
            ><dt>
              <kbd>{{ key }}</kbd>
            </dt>
            <dd>{{ does }}</dd></template
          >
        </dl>
      </div>
    </div>
    <h3>Finding</h3>
    <p class="soft">
      Words match names, notes, tags, categories and authors; small typos are forgiven. Words come first, or after a
      semicolon. A comma between values means any of them; “not” before a term excludes it:
      <b>fog size: under 60; not tag: night</b>. Text in quotes stays together, commas included:
      <b>set: "Act 1, the quay"</b>
    </p>
    <dl>
      <template v-for="[term, means] in terms" :key="term"
        ><dt>
          <b>{{ term }}</b>
        </dt>
        <dd>{{ means }}</dd></template
      >
    </dl>
  </el-dialog>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
}
.two dl {
  grid-template-columns: 150px 1fr;
}
.two h3 {
  margin-top: 0;
}
dl {
  display: grid;
  grid-template-columns: 210px 1fr;
  row-gap: 6px;
  margin: 0;
}
dd {
  margin: 0;
}
h3 {
  margin: 16px 0 4px;
  font-size: 13px;
}
p {
  margin: 0 0 8px;
}
kbd {
  font: inherit;
  font-weight: 700;
  border: 1px solid var(--line-strong);
  border-radius: 5px;
  padding: 1px 7px;
}
</style>
