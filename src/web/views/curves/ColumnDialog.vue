<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed, ref } from 'vue'
import { pasteColumn, readColumn, withColumn } from '../../../core/change/curve-edits.ts'
import type { Records, Row } from '../../../core/plan/records.ts'
import { curveSteps } from '../../../core/view/curve-table.ts'
import { numberText } from '../../../core/view/numbers.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** A pasted column: which step its first number is for is asked, and shown on the rows before it is taken. */
const props = defineProps<{ records: Records; curve: Row<'curve'> }>()
const plan = usePlanStore()
const isOpen = ref(false)
const text = ref('')
const from = ref(1)

const column = computed(() => readColumn(text.value))
const choices = computed(() => Array.from({ length: Math.max(3, props.curve.maxLevel - props.curve.firstLevel) }, (_, i) => props.curve.firstLevel + i))
const before = computed(() => new Map(curveSteps(props.curve).map((step) => [step.from, step])))
const after = computed(() => (column.value.says ? [] : curveSteps(withColumn(props.curve, column.value.values, from.value))))

function open(pasted: string): void {
  text.value = pasted
  from.value = props.curve.firstLevel
  isOpen.value = true
}

function take(): void {
  plan.edit(pasteColumn(props.records, props.curve, column.value.values, from.value))
  isOpen.value = false
}
defineExpose({ open })
</script>

<template>
  <ElDialog v-model="isOpen" title="Paste a column" width="560" append-to-body>
    <div data-test="column">
      <textarea v-if="column.says" v-model="text" rows="6" aria-label="The column" />
      <p v-if="column.says && text" class="wrong" role="alert">{{ column.says }}</p>
      <template v-if="!column.says">
        <p><label>The first number, {{ numberText(column.values[0]!) }}, is {{ curve.counts === 'total' ? 'the XP in all at which' : 'what it takes for' }}
          <select v-model.number="from" data-test="column from"><option v-for="level in choices" :key="level" :value="level">{{ level }} → {{ level + 1 }}</option></select></label></p>
        <p class="soft">The curve then ends at level {{ from + column.values.length }}<template v-if="from + column.values.length !== curve.maxLevel"> instead of {{ curve.maxLevel }}</template>.</p>
        <div class="rows">
          <table>
            <thead><tr><th>step</th><th class="num">now</th><th class="num">then</th><th class="num">in all</th></tr></thead>
            <tbody><tr v-for="step in after" :key="step.from" :class="{ changed: before.get(step.from)?.step !== step.step }"><td>{{ step.from }} → {{ step.to }}</td><td class="num soft">{{ before.has(step.from) ? numberText(before.get(step.from)!.step) : '–' }}</td><td class="num">{{ numberText(step.step) }}</td><td class="num">{{ numberText(step.total) }}</td></tr></tbody>
          </table>
        </div>
      </template>
    </div>
    <template #footer>
      <button class="act plain" @click="isOpen = false">Cancel</button>
      <button class="act" :disabled="column.says !== null" data-test="column take" @click="take">Take {{ column.values.length }} values</button>
    </template>
  </ElDialog>
</template>

<style scoped>
textarea, select { background: var(--paper); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 4px 6px; }
textarea { font-family: var(--mono); width: 100%; }
.rows { max-height: 46vh; overflow: auto; }
table { border-collapse: collapse; width: 100%; }
th { color: var(--soft); font-weight: 400; text-align: left; }
th.num { text-align: right; }
td { border-top: 1px solid var(--line); padding: 1px 8px; }
.changed { background: var(--mark); }
.wrong { color: var(--short); }
.act { margin-left: 8px; }
.act:disabled { opacity: 0.45; }
</style>
