import { onBeforeUnmount, onMounted, watch, type Ref } from 'vue'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { recordOf, type Cell } from './sheet-actions.ts'
import { useSheetStore } from './sheet-store.ts'

/** What of a sheet can be left and taken up again. */
interface Sheet {
  scroller: Ref<HTMLElement | undefined>
  /** Whether there are rows of known heights. */
  hasRows: () => boolean
  /** Where the keyboard is. */
  active: { activeId: Ref<string | null>; activeCell: Ref<Cell>; activeRow: Readonly<Ref<SheetRow | undefined>> }
  find: { wanted: Ref<string>; seek: () => void }
  /** Goes to the row of a record, if it has one. */
  reveal: (key: string) => void
  focus: () => void
}

/**
 * Who comes back to the sheet from another view goes on where it was left, or at what was chosen since, and with the keyboard in it if that
 * is nowhere else.
 */
export function useLeftSheet({ scroller, hasRows, active: { activeId, activeCell, activeRow }, find, reveal, focus }: Sheet): void {
  const selection = useSelectionStore()
  const sheet = useSheetStore()
  const { id } = usePlanStore()
  const left = sheet.left?.plan === id ? sheet.left : null

  if (left) {
    find.wanted.value = left.wanted
    find.seek()
    activeId.value = left.row
    activeCell.value = left.cell
  }

  function goOn(): void {
    if (left) scroller.value!.scrollTop = left.top
    const { chosen } = selection
    if (chosen && recordOf(activeRow.value)?.key !== chosen.key) reveal(chosen.key)
  }

  // At first the sheet has no width, and so its rows no heights.
  watch(hasRows, goOn, { flush: 'post', once: true })
  onMounted(() => {
    if (document.activeElement === document.body) focus()
  })
  onBeforeUnmount(() => {
    if (id && scroller.value) sheet.left = { plan: id, top: scroller.value.scrollTop, row: activeId.value, cell: activeCell.value, wanted: find.wanted.value }
  })
}
