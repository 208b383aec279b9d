<script setup lang="ts">
import type { BrushSet } from '../../api/client'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'
import type { What } from './SetDialog.vue'

/** What can be done with a set. */
defineProps<{ set: BrushSet; filled: boolean }>()
const emit = defineEmits<{
  ask: [what: What | 'proof' | 'export' | 'reset']
  order: [by: 'name' | 'size' | 'colour' | 'use']
  bundle: []
  brushes: []
}>()
const library = useLibrary()
const session = useSession()
const ORDERS = ['name', 'size', 'colour', 'use'] as const
</script>

<template>
  <el-dropdown trigger="click" @command="($event as () => void)()">
    <el-button>More ▾</el-button>
    <template #dropdown
      ><el-dropdown-menu>
        <el-dropdown-item :command="() => emit('brushes')">Show in Brushes</el-dropdown-item>
        <el-dropdown-item v-if="library.sets.length > 1" :command="() => emit('ask', 'beside')"
          >Open another set beside it…</el-dropdown-item
        >
        <el-dropdown-item divided :command="() => emit('ask', 'proof')">Proof sheet…</el-dropdown-item
        ><el-dropdown-item :command="() => emit('ask', 'export')">Export…</el-dropdown-item
        ><el-dropdown-item v-if="session.mayEdit && filled" :command="() => emit('bundle')"
          >Make a bundle of it</el-dropdown-item
        >
        <template v-if="session.mayEdit">
          <template v-if="set.query === null"
            ><el-dropdown-item v-for="order in ORDERS" :key="order" :command="() => emit('order', order)"
              >Order by {{ order }}</el-dropdown-item
            >
            <el-dropdown-item :command="() => emit('ask', 'join')">Join another…</el-dropdown-item
            ><el-dropdown-item :command="() => emit('ask', 'subtract')"
              >Remove brushes in another set…</el-dropdown-item
            ></template
          >
          <el-dropdown-item :command="() => emit('ask', 'copy')">Copy to a new set…</el-dropdown-item>
          <el-dropdown-item :command="() => emit('ask', 'reset')">Reset its brushes…</el-dropdown-item>
          <el-dropdown-item :command="() => emit('ask', 'name')">{{
            set.query !== null ? 'Name and search…' : 'Rename…'
          }}</el-dropdown-item><el-dropdown-item :command="() => emit('ask', 'delete')">Delete…</el-dropdown-item>
        </template>
      </el-dropdown-menu></template
    >
  </el-dropdown>
</template>
