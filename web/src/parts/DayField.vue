<script setup lang="ts">
import 'element-plus/theme-chalk/el-date-picker-panel.css'
import 'element-plus/theme-chalk/el-date-picker.css'
import { computed } from 'vue'

/** A day, written in the order of its reader's language; kept as year-month-day. */
defineProps<{ label: string; placeholder: string }>()
const day = defineModel<string>()
const ORDER = { day: 'DD', month: 'MM', year: 'YYYY' } as const
/** As `Intl` writes a date here: DD/MM/YYYY, MM/DD/YYYY, DD.MM.YYYY … */
const format = computed(() =>
  new Intl.DateTimeFormat(navigator.language, { day: '2-digit', month: '2-digit', year: 'numeric' })
    .formatToParts(new Date())
    .map(({ type, value }) => (type in ORDER ? ORDER[type as keyof typeof ORDER] : value))
    .join(''),
)
</script>

<template>
  <el-date-picker
    :model-value="day || null"
    type="date"
    :format="format"
    value-format="YYYY-MM-DD"
    :placeholder="placeholder"
    :aria-label="label"
    class="day"
    @update:model-value="day = ($event as string | null) ?? ''"
  />
</template>
