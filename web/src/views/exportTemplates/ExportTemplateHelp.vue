<script setup lang="ts">
/** What can be written in an export template, and how far it may go. */
defineProps<{ limits?: { kb: number; mb: number; steps: number; seconds: number } }>()
const FILTERS = [
  ['percent', '0.7 → 70'],
  ['between: 0, 255', '0.5 → 127.5'],
  ['clockwise', '90° → 270°'],
  ['radians, turns', 'degrees in other units'],
  ['mm: 300, inches: 300', 'pixels at 300 dots an inch'],
  ['radius', '40 → 20'],
  ['rgb', '#336699 → 51 102 153'],
  ['csv, xml, ini, markdown, json', 'text that cannot break out of its place'],
]
</script>

<template>
  <div class="help small">
    <p v-pre>
      The language is Liquid. <code>{{ preset.name }}</code>, <code>{{ preset.tip.size.base }}</code> and every other
      setting by its path; <code>preset.tags</code>, <code>traits</code>, <code>category</code>, <code>version</code>,
      <code>number</code>, <code>fingerprint</code>; <code>presets</code> for all, <code>set.name</code>. Filters:
    </p>
    <table>
      <tbody>
        <tr v-for="[name, what] in FILTERS" :key="name">
          <td>
            <code>{{ name }}</code>
          </td>
          <td class="soft">{{ what }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="limits">
      An export template is at most {{ limits.kb }} KB long. It may take {{ limits.seconds }} seconds, and one more for
      every hundred brushes; a file that it writes, {{ limits.mb }} MB and {{ limits.steps / 1e6 }} million steps. What
      goes beyond is stopped, and nothing is written.
    </p>
  </div>
</template>

<style scoped>
.help {
  overflow: auto;
  max-height: 200px;
}
.help td {
  padding: 1px 14px 1px 0;
}
</style>
