import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue'
import type { ItemRow } from '../../../core/plan/records.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { indexNear } from './index-near.ts'
import { cells, itemOf, recordOf, type Cell } from './sheet-actions.ts'

/** Which row and cell is active, and which rows are chosen with it. */
export function useRowChoice(rows: ComputedRef<SheetRow[]>, scrollTo: (index: number) => void) {
  const selection = useSelectionStore()
  const activeId = ref<string | null>(null)
  const activeCell = ref<Cell>('name')
  /** Rows chosen together, by id; empty: only the active one is. */
  const others = shallowRef<ReadonlySet<string>>(new Set())
  /** Where a range of chosen rows began. */
  let anchor: string | null = null

  /** Mostly it stands where it stood. */
  const activeIndex = computed<number>((before = -1) => indexNear(rows.value, activeId.value, before))
  /** Where the active row stood last: from there the keyboard goes on when it is gone. */
  let lastIndex = -1
  watch(activeIndex, (now) => {
    if (now >= 0) lastIndex = now
  })
  const activeRow = computed(() => rows.value[activeIndex.value])
  const chosenRows = computed(() => (others.value.size ? rows.value.filter((row) => others.value.has(row.id)) : activeRow.value ? [activeRow.value] : []))
  const chosenItems = computed(() => chosenRows.value.map(itemOf).filter((item): item is ItemRow => item !== null))
  const isChosen = (index: number) => index === activeIndex.value || others.value.has(rows.value[index]!.id)

  function activate(index: number, cell: Cell = activeCell.value): void {
    const at = Math.min(Math.max(index, 0), rows.value.length - 1)
    const row = rows.value[at]
    if (!row) return
    activeId.value = row.id
    activeCell.value = cell
    scrollTo(at)
    const target = recordOf(row)
    if (target) selection.choose(target.kind, target.key)
  }

  /** Goes to a row and leaves the others. */
  function goTo(index: number, cell?: Cell): void {
    others.value = new Set()
    anchor = null
    activate(index, cell)
  }

  /** The row so many rows on from the active one, or from where it stood. */
  function indexOn(by: number): number {
    if (activeIndex.value >= 0) return activeIndex.value + by
    return by > 0 ? lastIndex + by - (lastIndex < 0 ? 0 : 1) : Math.max(lastIndex, 0) + by
  }

  function extendTo(index: number): void {
    const target = Math.min(Math.max(index, 0), rows.value.length - 1)
    anchor ??= activeId.value
    const from = Math.max(0, indexNear(rows.value, anchor, activeIndex.value))
    others.value = new Set(rows.value.slice(Math.min(from, target), Math.max(from, target) + 1).map((row) => row.id))
    activate(target)
  }

  function toggle(index: number): void {
    const next = new Set(others.value.size ? others.value : activeId.value ? [activeId.value] : [])
    const { id } = rows.value[index]!
    if (!next.delete(id)) next.add(id)
    others.value = next
    anchor = id
  }

  function pick(index: number, cell: Cell, event: MouseEvent): void {
    if (event.shiftKey && activeIndex.value >= 0) {
      extendTo(index)
      event.preventDefault()
    } else if (event.ctrlKey || event.metaKey) toggle(index)
    else goTo(index, cell)
  }

  /** All rows of the place in which the active one lies; where they are chosen already, all rows. */
  function chooseAll(): void {
    const isHead = (row: SheetRow | undefined) => row?.type === 'place' || row?.type === 'heading'
    let first = Math.max(0, activeIndex.value)
    while (first > 0 && !isHead(rows.value[first])) first--
    let end = first + 1
    while (end < rows.value.length && !isHead(rows.value[end])) end++
    const own = rows.value.slice(first, end).filter((row) => itemOf(row))
    const isWhole = own.length === others.value.size && own.every((row) => others.value.has(row.id))
    others.value = new Set((isWhole || !own.length ? rows.value.filter((row) => itemOf(row)) : own).map((row) => row.id))
  }

  function choose(keys: readonly string[]): void {
    others.value = new Set(keys)
  }

  function moveCell(by: 1 | -1): void {
    const at = cells.indexOf(activeCell.value) + by
    activeCell.value = cells[Math.min(Math.max(at, 0), cells.length - 1)]!
  }

  function clear(): void {
    others.value = new Set()
    anchor = null
  }

  return { activeId, activeCell, others, activeIndex, activeRow, chosenRows, chosenItems, isChosen, indexOn, activate, goTo, extendTo, pick, chooseAll, choose, moveCell, clear }
}
