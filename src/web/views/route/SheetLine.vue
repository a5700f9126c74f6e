<script setup lang="ts">
import type { GateResult, Verdict } from '../../../core/check/result.ts'
import type { PlanIssue } from '../../../core/plan/issue.ts'
import type { Records } from '../../../core/plan/records.ts'
import type { Peg } from '../../../core/view/pegs.ts'
import type { PlaceSum } from '../../../core/view/place-sums.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import type { ThreadRun } from '../../draw/thread-runs.ts'
import RowLanes from './RowLanes.vue'
import type { Cell } from './sheet-actions.ts'
import SheetRowView from './SheetRow.vue'
import type { TallyKind } from '../../../core/change/missing-tally.ts'
import type { CellEdit, Onward } from './use-cell-editing.ts'

/**
 * One line of the sheet: a row and the lanes beside it. It is told all that it is drawn from but the lanes (see lanes-beside.ts), each thing
 * as the very one that it was while it is alike, so that lines that stay in view are not drawn again while one scrolls or edits others.
 */
defineProps<{
  row: SheetRow
  index: number
  top: number
  height: number
  /** What its texts are written from. */
  records: Pick<Records, 'pattern'>
  gate: GateResult | undefined
  verdict: Verdict | undefined
  issues: PlanIssue[]
  sums: readonly PlaceSum[]
  chosen: boolean
  /** The cell that the keyboard is in; null in all lines but the active one. */
  activeCell: Cell | null
  editing: CellEdit | null
  /** Whether a row that is dragged would come to stand above this one. */
  dropBefore: boolean
  /** In pixels; 0: lanes are not drawn. */
  lanesWidth: number
  pegs: readonly Peg[]
  threads: readonly ThreadRun[]
  /** Where the peg stands that is being dragged. */
  draggedPeg: { index: number; at: number } | undefined
}>()
const emit = defineEmits<{
  pick: [index: number, cell: Cell, event: MouseEvent]
  edit: [index: number, cell: Cell]
  fold: [row: SheetRow]
  commit: [text: string, then: Onward, adding?: TallyKind]
  cancel: []
  hover: [event: MouseEvent, index: number]
  choose: [index: number]
  grabRow: [event: PointerEvent, row: SheetRow]
  grabPeg: [event: PointerEvent, row: SheetRow, peg: Peg, lane: DrawnLane]
}>()
</script>

<template>
  <div
    :id="`row-${index}`" class="line" role="row" :aria-rowindex="index + 1" :aria-selected="chosen" :class="{ place: row.type === 'place', chosen, drop: dropBefore, editing }"
    :style="{ top: `${top}px`, height: `${height}px` }" :data-test="`row ${row.type}`" @mousemove="emit('hover', $event, index)"
  >
    <SheetRowView
      :row="row" :records="records" :gate="gate" :issues="issues" :sums="sums" :chosen="chosen" :active-cell="activeCell" :editing="editing"
      @pick="(cell, event) => emit('pick', index, cell, event)" @edit="(cell) => emit('edit', index, cell)" @grab="emit('grabRow', $event, row)"
      @fold="emit('fold', row)" @commit="(...taken) => emit('commit', ...taken)" @cancel="emit('cancel')"
    />
    <RowLanes
      v-if="lanesWidth > 0" :index="index" :height="height" :width="lanesWidth" :pegs="pegs" :verdict="verdict" :threads="threads"
      :named="row.type === 'place'" :dragged="draggedPeg" @choose="emit('choose', index)" @grab="(event, peg, lane) => emit('grabPeg', event, row, peg, lane)"
    />
  </div>
</template>

<style scoped>
/* What changes in one row lays out and paints nothing else. Its rule stands within, and not as a border: at that the lanes would be cut off. */
.line { --rule: inset 0 -1px 0 color-mix(in srgb, var(--line) 55%, transparent); box-shadow: var(--rule); contain: strict; display: flex; left: 0; padding-bottom: 1px; position: absolute; top: 0; width: 100%; }
.line.place { background: var(--panel); }
.line.chosen { background: var(--mark); }
/* What a cell says of its text stands out of its row. */
.line.editing { contain: layout style size; z-index: 4; }
.line.drop { box-shadow: inset 0 2px 0 var(--accent), var(--rule); }
</style>
