<script setup lang="ts">
import 'element-plus/theme-chalk/el-tab-pane.css'
import 'element-plus/theme-chalk/el-tabs.css'
import { ref } from 'vue'
import { words } from '../stores/words'
import { BENCH_KEYS } from '../views/bench/keys'

/** Help behind `?`: the shortcuts, what the search understands, and Fobrel's own words. */
const open = defineModel<boolean>()
const tab = ref('shortcuts')
const keys = [
  ['/', 'Find a brush; ↓ moves through what was found, Enter opens it'],
  ['↑ ↓, Page ↑ ↓, Home, End', 'Move through the brushes'],
  ['Space', 'Select or deselect'],
  ['Shift with ↑ ↓ or a click', 'Select a range'],
  ['Ctrl with a click', 'Add to the selection'],
  ['Ctrl A', 'Select all found'],
  ['Enter', 'Open on the Bench'],
  ['Esc', 'Close what is open'],
  ['?', 'This help'],
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
  <el-dialog v-model="open" title="Help" width="760px">
    <el-tabs v-model="tab">
      <el-tab-pane label="Shortcuts" name="shortcuts">
        <div class="two">
          <div
            v-for="[title, list] in [
              ['Everywhere, and in Brushes', keys],
              ['On the Bench', BENCH_KEYS],
            ] as const"
            :key="title"
          >
            <h3>{{ title }}</h3>
            <dl>
              <template v-for="[key, does] in list" :key="key"
                ><dt>
                  <kbd>{{ key }}</kbd>
                </dt>
                <dd>{{ does }}</dd></template
              >
            </dl>
          </div>
        </div>
      </el-tab-pane>
      <el-tab-pane label="Search" name="search">
        <p class="soft">
          Words match names, notes, tags and their synonyms, categories, traits and authors; small typos are forgiven. A
          number means a size near it. Words come first, or after a semicolon. A comma between values means any of them;
          “not” before a term excludes it: <b>fog size: under 60; not tag: night</b>. Text in quotes stays together,
          commas included: <b>set: "Act 1, the quay"</b>
        </p>
        <dl>
          <template v-for="[term, means] in terms" :key="term"
            ><dt>
              <b>{{ term }}</b>
            </dt>
            <dd>{{ means }}</dd></template
          >
        </dl>
      </el-tab-pane>
      <el-tab-pane label="Glossary" name="glossary" lazy>
        <dl class="glossary">
          <template v-for="{ word, text, painted } in words.glossary" :key="word"
            ><dt>
              <b>{{ word }}</b>
            </dt>
            <dd>
              {{ text }}
              <img v-if="painted" :src="`/api/glossary/${encodeURIComponent(word)}.png`" alt="" loading="lazy" /></dd
          ></template>
        </dl>
      </el-tab-pane>
    </el-tabs>
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
.glossary {
  grid-template-columns: 130px 1fr;
  row-gap: 12px;
}
.glossary img {
  display: block;
  width: 300px;
  margin-top: 4px;
  background: var(--strip);
  border: 1px solid var(--line);
  border-radius: 6px;
}
kbd {
  font: inherit;
  font-weight: 700;
  border: 1px solid var(--line-strong);
  border-radius: 5px;
  padding: 1px 7px;
}
</style>
