<script setup lang="ts">
import { computed } from 'vue'
import { removeRecords } from '../../../core/change/edits.ts'
import { asksText } from '../../../core/exchange/row-text.ts'
import { kindEntry } from '../../../core/plan/kinds.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import type { Records, Row } from '../../../core/plan/records.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { keyOf, useFindingsStore } from '../../stores/findings.ts'
import { useSelectionStore } from '../../stores/selection.ts'
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
const chosen = computed(() => selection.chosen)
const row = computed(() => (chosen.value ? (props.records[chosen.value.kind].get(chosen.value.key) as unknown as { id: string; name?: string; key: string } | undefined) : undefined))
const gate = computed(() => (chosen.value?.kind === 'gate' ? (row.value as unknown as Row<'gate'>) : undefined))
const result = computed(() => (gate.value ? check.gate(gate.value.id) : undefined))
const own = computed(() => findings.all.filter((found) => found !== findings.current && found.item.kind === chosen.value?.kind && found.item.id === row.value?.id))
const where = computed(() => {
  const place = (row.value as { place?: string | null } | undefined)?.place
  if (place === undefined) return ''
  return place === null ? 'anywhere' : (props.records.place.get(place)?.name ?? '')
})

function remove(): void {
  if (!chosen.value) return
  plan.edit(removeRecords(props.records, [chosen.value]))
  selection.clear()
}
</script>

<template>
  <aside class="dock" aria-label="Chosen item" data-test="dock">
    <FindingBar v-if="findings.current" :records="records" :finding="findings.current" />
    <template v-if="chosen && row">
      <header>
        <svg v-if="gate" width="18" height="18" viewBox="-9 -9 18 18" aria-hidden="true"><VerdictMark :verdict="result?.verdict" /></svg>
        <h2>{{ labelOf(row) }}</h2>
        <button class="quiet soft" title="Back to the plan's lists (Esc)" @click="selection.clear()">×</button>
      </header>
      <p class="soft kind">{{ gate ? `${gate.kind.replace('_', ' ')} · ${gate.role}` : kindEntry(chosen.kind).word }}{{ where ? ` · ${where}` : '' }}</p>
      <p v-if="gate" class="asks mono">{{ asksText(gate) || 'asks for nothing' }}</p>
      <GateWhy v-if="gate && result" :records="records" :gate="gate" :result="result" />
      <GateFixes v-if="gate && result" :records="records" :gate="gate" :result="result" />
      <section v-if="own.length" data-test="own findings">
        <h3>{{ findings.current ? 'Also found' : 'Found' }}</h3>
        <ul class="own"><li v-for="found in own" :key="keyOf(found)"><button @click="findings.choose(found)">{{ found.says }}</button></li></ul>
      </section>
      <h3>Fields</h3>
      <RecordEditor :records="records" :kind="chosen.kind" :record-key="chosen.key" />
      <p class="acts"><button class="act plain" @click="remove">Delete this {{ kindEntry(chosen.kind).word }}</button></p>
    </template>
    <template v-else>
      <FindingsList />
      <PlanLists :records="records" />
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
