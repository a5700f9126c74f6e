import { nextTick, ref, type Ref } from 'vue'
import type { TallyKind } from '../../../core/change/missing-tally.ts'
import type { LineFault } from '../../../core/exchange/line-fault.ts'
import type { Records } from '../../../core/plan/records.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { changedElsewhere } from '../../changed-elsewhere.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useMissingTally } from '../../use-missing-tally.ts'
import { indexNear } from './index-near.ts'
import { cellText, editCell, toggleRole, type Cell } from './sheet-actions.ts'

/** Where the sheet stands, and how it goes elsewhere. */
interface Place {
  rows: Readonly<Ref<readonly SheetRow[]>>
  activeRow: Readonly<Ref<SheetRow | undefined>>
  activeCell: Ref<Cell>
  activeIndex: Readonly<Ref<number>>
  goTo: (index: number, cell?: Cell) => void
}

/** Cells with something to type in, in the order in which Tab goes through them. */
const typed: readonly Cell[] = ['name', 'asks']

/** Where typing goes on once it is taken: back in the sheet, in the next or the previous cell, or wherever the user has gone. */
export type Onward = 'stay' | 'next' | 'previous' | 'elsewhere'

export interface CellEdit {
  /** The id of the row that it was begun in: another one may be active by the time it is taken. */
  row: string
  cell: Cell
  /** What stood there, and what was typed instead, as far as it was tried to be taken. */
  text: string
  typed: string
  /** Why it was refused. */
  fault: LineFault | null
}

/**
 * Typing into the cells of the sheet, in place. `leave`: gives the keyboard back to the sheet, before anything is drawn anew: afterwards
 * the browser would have to lay it all out for that alone.
 */
export function useCellEditing(records: () => Records, { rows, activeRow, activeCell, activeIndex, goTo }: Place, leave: () => void) {
  const plan = usePlanStore()
  const addMissing = useMissingTally()
  const editing = ref<CellEdit | null>(null)

  function startEdit(cell: Cell = activeCell.value): void {
    const row = activeRow.value
    if (!row || row.type === 'heading') return
    if (editing.value) return goBack(editing.value)
    if (cell !== 'role') editing.value = begun(row, cell)
    else {
      const diff = toggleRole(records(), row)
      if (diff) plan.edit(diff)
    }
  }

  function begun(row: SheetRow, cell: Cell): CellEdit {
    const text = cellText(records(), row, cell)
    return { row: row.id, cell, text, typed: text, fault: null }
  }

  const indexOf = (edit: CellEdit) => indexNear(rows.value, edit.row, activeIndex.value)

  /** `adding`: the kind as which the tally is added first for want of which it was refused. */
  function commit(text: string, then: Onward, adding?: TallyKind): void {
    const edit = editing.value
    if (!edit) return
    if (adding && edit.fault?.missing) {
      const says = addMissing(edit.fault.missing, adding)
      if (says !== null) return refuse({ ...edit, typed: text, fault: { says } })
      // It is read against the plan that has the tally.
      return void nextTick(() => commit(text, then))
    }
    const row = rows.value[indexOf(edit)]
    if (!row) return loseRow(text, edit)
    if (text !== edit.text) {
      const now = cellText(records(), row, edit.cell)
      if (now !== edit.text && now !== text) return refuse({ ...edit, text: now, typed: text, fault: { says: changedElsewhere(now) } })
      const edited = editCell(records(), row, edit.cell, text)
      if ('says' in edited) return refuse({ ...edit, typed: text, fault: edited })
      plan.edit(edited.diff)
    }
    editing.value = null
    if (then === 'stay') leave()
    else if (then !== 'elsewhere') void nextTick(() => goOn(then === 'next' ? 1 : -1))
  }

  /** The row was deleted while something was typed into it, here or by somebody else. */
  function loseRow(text: string, edit: CellEdit): void {
    if (text !== edit.text) plan.notice = `“${text}” was not taken: its row has been deleted.`
    cancel()
  }

  function refuse(edit: CellEdit): void {
    editing.value = edit
    goBack(edit)
  }

  /** What cannot be taken is not left behind: its row is the active one again. */
  function goBack(edit: CellEdit): void {
    if (activeRow.value?.id !== edit.row) goTo(indexOf(edit), edit.cell)
  }

  /** Tab goes on to the next cell that is typed in, and from the last one to the next row. */
  function goOn(by: 1 | -1): void {
    const at = typed.indexOf(activeCell.value) + by
    if (at >= 0 && at < typed.length) activeCell.value = typed[at]!
    else {
      const next = activeIndex.value + by
      if (next < 0 || next >= rows.value.length) return leave()
      goTo(next, by === 1 ? 'name' : 'asks')
    }
    startEdit()
  }

  function cancel(): void {
    editing.value = null
    leave()
  }

  return { editing, startEdit, commit, cancel }
}
