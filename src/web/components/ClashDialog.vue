<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed } from 'vue'
import { conflictWords } from '../../core/change/settle.ts'
import { usePlanStore } from '../stores/plan.ts'

const plan = usePlanStore()
const isOpen = computed(() => plan.clash !== null)
const rows = computed(() => {
  const { clash, records } = plan
  return clash && records ? clash.conflicts.map((conflict) => conflictWords(records, clash.step.diff, conflict)) : []
})
</script>

<template>
  <ElDialog :model-value="isOpen" title="Changed in another window too" width="640" :show-close="false" :close-on-click-modal="false" :close-on-press-escape="false" append-to-body>
    <p>“{{ plan.clash?.step.diff.name }}” changes what was changed elsewhere in the meantime. Nothing is lost: choose which one stays.</p>
    <table>
      <thead><tr><th>What</th><th>Yours</th><th>There now</th></tr></thead>
      <tbody><tr v-for="row in rows" :key="row.what"><td>{{ row.what }}</td><td class="mono">{{ row.mine }}</td><td class="mono">{{ row.theirs }}</td></tr></tbody>
    </table>
    <template #footer>
      <button class="act plain" @click="plan.settleClash(false)">Leave what is there</button>
      <button class="act" @click="plan.settleClash(true)">Put yours over it</button>
    </template>
  </ElDialog>
</template>

<style scoped>
table { width: 100%; border-collapse: collapse; color: var(--ink); }
th, td { text-align: left; padding: 4px 8px; border-bottom: 1px solid var(--line); vertical-align: top; word-break: break-word; }
.act { margin-left: 8px; }
</style>
