<script setup lang="ts">
import { computed } from 'vue'
import type { GateResult } from '../../../core/check/result.ts'
import type { PlanIssue } from '../../../core/plan/issue.ts'
import { issueText } from '../../../core/plan/issue-text.ts'
import type { Records } from '../../../core/plan/records.ts'
import type { PlaceSum } from '../../../core/view/place-sums.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { verdictShort, verdictWords } from '../../../core/view/verdict-text.ts'
import VerdictMark from '../../components/VerdictMark.vue'
import CellEditor from './CellEditor.vue'
import { askedText, nameOf, placeLine } from './row-words.ts'
import { cells, type Cell } from './sheet-actions.ts'
import type { TallyKind } from '../../../core/change/missing-tally.ts'
import type { CellEdit, Onward } from './use-cell-editing.ts'

/** The text side of one row: its name, what it gives or asks for, its role, its verdict. */
const props = defineProps<{
  row: SheetRow
  records: Pick<Records, 'pattern'>
  gate: GateResult | undefined
  issues: PlanIssue[]
  sums: readonly PlaceSum[]
  chosen: boolean
  activeCell: Cell | null
  editing: CellEdit | null
}>()
const emit = defineEmits<{ pick: [cell: Cell, event: MouseEvent]; edit: [cell: Cell]; fold: []; grab: [event: PointerEvent]; commit: [text: string, then: Onward, adding?: TallyKind]; cancel: [] }>()

const item = computed(() => (props.row.type === 'source' ? props.row.source : props.row.type === 'gate' ? props.row.gate : null))
const texts = computed((): Record<Cell, string> => {
  const { row } = props
  const { name } = nameOf(row)
  if (row.type === 'heading') return { name, asks: row.hint, role: '' }
  if (row.type === 'place') return { name, asks: placeLine(row, props.sums), role: '' }
  return { name, asks: askedText(props.records, row), role: item.value!.role }
})
const problem = computed(() => props.issues.map(issueText).join('; '))
const says = computed(() => nameOf(props.row).says)
/** An id stands where a name is missing. */
const isNameless = computed(() => (props.row.type === 'place' ? props.row.place : item.value)?.name === '')
const verdict = computed(() => (props.gate ? verdictShort(props.gate) : ''))
/** More letters than stand in one line of the column. */
const isLong = computed(() => verdict.value.length > 8)

function classOf(cell: Cell) {
  return [cell, { active: props.activeCell === cell, editing: props.editing?.cell === cell, mono: (cell === 'asks' && props.row.type === 'gate') || (cell === 'name' && isNameless.value) }]
}
</script>

<template>
  <div class="row" :class="[row.type, { chosen, side: item?.role === 'side', again: row.type === 'place' && row.again }]">
    <span class="mark" role="gridcell" :class="{ grab: item }" :title="item ? 'Drag to move (or Alt with the arrow keys)' : undefined" @pointerdown="item && emit('grab', $event)">
      <button v-if="row.type === 'place' && !row.again" class="fold" tabindex="-1" :aria-label="row.folded ? 'Unfold' : 'Fold'" @click.stop="emit('fold')">{{ row.folded ? '▸' : '▾' }}</button>
      <svg v-else-if="row.type === 'gate'" width="14" height="14" viewBox="-7 -7 14 14" aria-hidden="true"><VerdictMark :verdict="gate?.verdict" /></svg>
      <span v-else-if="row.type === 'source' && row.source.role === 'side'" aria-hidden="true">◦</span>
    </span>
    <span
      v-for="cell in cells" :key="cell" role="gridcell" class="cell" :class="classOf(cell)" :title="cell === 'asks' ? texts.asks : undefined"
      @mousedown="emit('pick', cell, $event)" @dblclick="emit('edit', cell)"
    >
      <CellEditor v-if="editing?.cell === cell" :key="editing.row" :edit="editing" :row="row" @commit="(...taken) => emit('commit', ...taken)" @cancel="emit('cancel')" />
      <template v-else>{{ texts[cell] }}<i v-if="cell === 'name' && says" class="soft">{{ says }}</i></template>
    </span>
    <span class="verdict" role="gridcell" :class="gate ? `verdict-${gate.verdict}` : ''" @mousedown="emit('pick', 'name', $event)">
      <b v-if="problem" class="problem" :title="problem">error</b>
      <b v-else-if="gate" :class="{ long: isLong }" :title="`${verdictWords[gate.verdict].one}: ${verdictWords[gate.verdict].means}`">{{ verdict }}</b>
    </span>
  </div>
</template>

<style scoped>
.row { align-items: center; display: grid; grid-template-columns: 22px minmax(0, 1fr) minmax(0, 1.34fr) 30px 58px; flex: none; height: 100%; padding-left: 8px; width: var(--text-width); }
.place { background: var(--panel); }
.place .name { font-weight: 700; }
.place .asks { color: var(--soft); grid-column: 3 / -1; }
.place .role, .place .verdict { display: none; }
.place.again .name { font-weight: 400; }
.heading { background: var(--panel); color: var(--soft); }
.gate .name { font-weight: 600; }
.side .name, .side .asks { color: var(--soft); }
.chosen { background: var(--mark); }
.mark { align-items: center; align-self: stretch; color: var(--soft); display: flex; justify-content: center; line-height: 0; }
.mark.grab { cursor: grab; touch-action: none; }
.mark.grab:hover { background: color-mix(in srgb, var(--ink) 8%, transparent); border-radius: 3px; }
.fold { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 12px; padding: 4px; line-height: 1; }
/* Its row is as high as it needs: a clip of its own would only be one more to draw. */
.cell { border-radius: 3px; line-height: 15px; overflow-wrap: anywhere; padding: 3px 4px; position: relative; }
.cell.editing { align-self: stretch; z-index: 5; }
.cell.active { box-shadow: inset 0 0 0 1px var(--line); }
.scroller:focus .active { box-shadow: inset 0 0 0 2px var(--accent); }
.asks { font-size: 12px; }
.mono { font-family: var(--mono); font-size: 11.5px; }
.name i { font-family: var(--font); }
.role { color: var(--soft); font-size: 11px; padding: 0 2px; }
.verdict { padding-right: 8px; text-align: right; white-space: nowrap; }
.long { display: inline-block; font-size: 10.5px; line-height: 11px; white-space: normal; }
.problem { color: var(--short); text-decoration: underline wavy; }
</style>
