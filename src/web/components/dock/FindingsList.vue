<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Finding } from '../../../core/check/result.ts'
import type { KindName } from '../../../core/plan/kinds.ts'
import { byId, type Records } from '../../../core/plan/records.ts'
import { useCheckStore } from '../../stores/check.ts'
import { useSelectionStore } from '../../stores/selection.ts'

/** Findings, the gravest first; choosing one shows its item. */
const props = defineProps<{ records: Records; findings: Finding[] }>()
const check = useCheckStore()
const selection = useSelectionStore()

const groups = [
  { severity: 'fault', title: 'Faults', mark: '✕' },
  { severity: 'risk', title: 'Risks', mark: '◐' },
  { severity: 'note', title: 'Worth a look', mark: '·' },
] as const
const hidden = ref(new Set<string>(['note']))
const shown = computed(() => groups.map((group) => ({ ...group, found: props.findings.filter((found) => found.severity === group.severity) })).filter((group) => group.found.length))

function toggle(severity: string): void {
  const next = new Set(hidden.value)
  if (!next.delete(severity)) next.add(severity)
  hidden.value = next
}

function show({ item }: Finding): void {
  if (item.kind === 'plan') return
  const row = byId(props.records, item.kind as KindName, item.id)
  if (row) selection.choose(item.kind as KindName, row.key)
}
</script>

<template>
  <section class="findings" data-test="findings">
    <h3>Findings <span v-if="check.isLooking" class="soft">looking …</span></h3>
    <p v-if="!findings.length && !check.isLooking" class="soft">Nothing was found.</p>
    <div v-for="group in shown" :key="group.severity" :class="group.severity">
      <button class="quiet title" :aria-expanded="!hidden.has(group.severity)" @click="toggle(group.severity)">{{ hidden.has(group.severity) ? '▸' : '▾' }} {{ group.title }}: {{ group.found.length }}</button>
      <ul v-if="!hidden.has(group.severity)">
        <li v-for="(found, i) in group.found" :key="i"><button class="link" :title="found.id" @click="show(found)"><span aria-hidden="true">{{ group.mark }}</span> {{ found.says }}</button></li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.findings { border-bottom: 1px solid var(--line); margin: 10px 0 12px; padding-bottom: 8px; }
h3 { font-size: 13px; margin: 0 0 2px; }
p { margin: 2px 0; }
ul { list-style: none; margin: 0; padding: 0; }
.title { font-weight: 600; padding: 4px 0; }
.fault .title { color: var(--short); }
.risk .title { color: var(--depends); }
.link { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 12px; padding: 2px 0 2px 6px; text-align: left; }
.link:hover { text-decoration: underline; }
.fault .link span { color: var(--short); }
.risk .link span { color: var(--depends); }
</style>
