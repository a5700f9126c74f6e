import { nextTick, ref, type Ref } from 'vue'
import type { Records } from '../../../core/plan/records.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { usePlanStore } from '../../stores/plan.ts'
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

/** Typing into the cells of the sheet, in place. `leave`: gives the keyboard back to the sheet. */
export function useCellEditing(records: () => Records, { rows, activeRow, activeCell, activeIndex, goTo }: Place, leave: () => void) {
  const plan = usePlanStore()
  const editing = ref<{ cell: Cell; text: string; says: string | null } | null>(null)

  function startEdit(cell: Cell = activeCell.value): void {
    const row = activeRow.value
    if (!row || row.type === 'heading') return
    if (cell !== 'role') editing.value = { cell, text: cellText(records(), row, cell), says: null }
    else {
      const diff = toggleRole(records(), row)
      if (diff) plan.edit(diff)
    }
  }

  function commit(text: string, then: 'stay' | 'next' | 'previous'): void {
    const row = activeRow.value
    const edit = editing.value
    if (!row || !edit) return
    if (text !== edit.text) {
      const edited = editCell(records(), row, edit.cell, text)
      if ('says' in edited) {
        editing.value = { ...edit, says: edited.says }
        return
      }
      plan.edit(edited.diff)
    }
    editing.value = null
    void nextTick(() => (then === 'stay' ? leave() : goOn(then === 'next' ? 1 : -1)))
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
    void nextTick(leave)
  }

  return { editing, startEdit, commit, cancel }
}
