<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed } from 'vue'
import { usePlanStore } from '../stores/plan.ts'

const plan = usePlanStore()
const isOpen = computed(() => plan.clash !== null)
const rows = computed(() => plan.clash?.conflicts.map((conflict) => {
  const change = plan.clash!.step.diff.changes.find((c) => c.kind === conflict.kind && c.key === conflict.key)
  const mine = conflict.field === null ? (change?.after ? 'kept' : 'deleted') : show(change?.after?.[conflict.field])
  return { what: `${conflict.kind} · ${conflict.field ?? 'the whole record'}`, mine, theirs: conflict.field === null && conflict.found === null ? 'deleted' : show(conflict.found) }
}) ?? [])

function show(value: unknown): string {
  return typeof value === 'string' ? value : JSON.stringify(value ?? null)
}
</script>

<template>
  <ElDialog :model-value="isOpen" title="Changed in another window too" width="640" :show-close="false" :close-on-click-modal="false" :close-on-press-escape="false" append-to-body>
    <p>“{{ plan.clash?.step.diff.name }}” changes what was changed elsewhere in the meantime. Nothing is lost: choose which one stays.</p>
    <table>
      <thead><tr><th>Field</th><th>Yours</th><th>There now</th></tr></thead>
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
