<script setup lang="ts">
import { computed, ref } from 'vue'
import { removeRecords } from '../../../core/change/edits.ts'
import { asksText } from '../../../core/exchange/row-text.ts'
import { kindEntry } from '../../../core/plan/kinds.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import type { Records, Row } from '../../../core/plan/records.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { keyOf, useFindingsStore } from '../../stores/findings.ts'
import { useSelectionStore, type Chosen } from '../../stores/selection.ts'
import { useCalm } from '../../use-calm.ts'
import VerdictMark from '../VerdictMark.vue'
import FindingBar from './FindingBar.vue'
import FindingsList from './FindingsList.vue'
import GateFixes from './GateFixes.vue'
import GateWhy from './GateWhy.vue'
import PlanLists from './PlanLists.vue'
import RecordEditor from './RecordEditor.vue'

/** The chosen item: what it is, why it has its verdict, and its fields. With nothing chosen, the plan's lists. */
const props = defineProps<{ records: Records }>()

const plan = usePlanStore()
const check = useCheckStore()
const findings = useFindingsStore()
const selection = useSelectionStore()
const dock = ref<HTMLElement>()

/** It stands beside the sheet or the map: whoever works there waits neither for it nor, because of it, for new verdicts; and it follows at once who works in it. */
const { calm: shown, follow } = useCalm(() => whatIsChosen(props.records, selection.chosen), { isAtHand: () => dock.value?.contains(document.activeElement) ?? false, isBusy: () => check.isStale && !check.isRough })

function whatIsChosen(records: Records, chosen: Chosen | null) {
  const row = chosen ? (records[chosen.kind].get(chosen.key) as unknown as { id: string; name?: string; key: string; place?: string | null } | undefined) : undefined
  const gate = chosen?.kind === 'gate' ? (row as Row<'gate'> | undefined) : undefined
  return { records, chosen, row, gate, result: gate && check.gate(gate.id) }
}

const own = computed(() => {
  const { chosen, row } = shown.value
  return findings.all.filter((found) => found !== findings.current && found.item.kind === chosen?.kind && found.item.id === row?.id)
})
const where = computed(() => {
  const { records, row } = shown.value
  if (row?.place === undefined) return ''
  return row.place === null ? 'anywhere' : (records.place.get(row.place)?.name ?? '')
})

function remove(chosen: Chosen): void {
  plan.edit(removeRecords(plan.records!, [chosen]))
  selection.clear()
}
</script>

<template>
  <aside ref="dock" class="dock" aria-label="Chosen item" data-test="dock" @focusin="follow">
    <FindingBar v-if="findings.current" :records="shown.records" :finding="findings.current" />
    <template v-if="shown.chosen && shown.row">
      <header>
        <svg v-if="shown.gate" width="18" height="18" viewBox="-9 -9 18 18" aria-hidden="true"><VerdictMark :verdict="shown.result?.verdict" /></svg>
        <h2>{{ labelOf(shown.row) }}</h2>
        <button class="quiet soft" title="Back to the plan's lists (Esc)" @click="selection.clear()">×</button>
      </header>
      <p class="soft kind">{{ shown.gate ? `${shown.gate.kind.replace('_', ' ')} · ${shown.gate.role}` : kindEntry(shown.chosen.kind).word }}{{ where ? ` · ${where}` : '' }}</p>
      <p v-if="shown.gate" class="asks mono">{{ asksText(shown.gate) || 'asks for nothing' }}</p>
      <template v-if="shown.gate && shown.result">
        <GateWhy :records="shown.records" :gate="shown.gate" :result="shown.result" />
        <GateFixes :records="shown.records" :gate="shown.gate" :result="shown.result" />
      </template>
      <section v-if="own.length" data-test="own findings">
        <h3>{{ findings.current ? 'Also found' : 'Found' }}</h3>
        <ul class="own"><li v-for="found in own" :key="keyOf(found)"><button @click="findings.choose(found)">{{ found.says }}</button></li></ul>
      </section>
      <h3>Fields</h3>
      <RecordEditor :records="shown.records" :kind="shown.chosen.kind" :record-key="shown.chosen.key" />
      <p class="acts"><button class="act plain" @click="remove(shown.chosen)">Delete this {{ kindEntry(shown.chosen.kind).word }}</button></p>
    </template>
    <template v-else>
      <FindingsList />
      <PlanLists :records="shown.records" />
      <p class="soft note">In the lanes the line is the middle walk; within a stop the band is drawn in proportion between what was found on leaving the stops.</p>
    </template>
  </aside>
</template>

<style scoped>
.dock { border-left: 1px solid var(--line); flex: none; overflow: auto; padding: 12px 14px 24px; width: 312px; }
@media (min-width: 1700px) { .dock { width: 400px; } }
header { align-items: center; display: flex; gap: 6px; }
h2 { flex: 1; font-size: 16px; margin: 0; }
h3 { border-top: 1px solid var(--line); font-size: 13px; margin: 14px 0 8px; padding-top: 10px; }
.kind { margin: 2px 0 8px; }
.asks { background: var(--panel); border-radius: 4px; margin: 0 0 10px; padding: 6px 8px; font-size: 12px; }
.acts { margin: 14px 0 0; }
.own { font-size: 12px; margin: 0; padding-left: 16px; }
.own button { background: none; border: 0; border-radius: 3px; color: var(--ink); cursor: pointer; font-size: 12px; padding: 1px 0; text-align: left; vertical-align: top; }
.own button:hover { background: var(--select); }
.note { border-top: 1px solid var(--line); font-size: 12px; margin-top: 16px; padding-top: 10px; }
</style>
