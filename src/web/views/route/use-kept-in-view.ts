import { nextTick, watch, type Ref } from 'vue'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { itemOf } from './sheet-actions.ts'
import { useSheetStore } from './sheet-store.ts'

/** Where the keyboard is in the sheet; −1: nowhere. */
interface Active {
  activeIndex: Readonly<Ref<number>>
  activeRow: Readonly<Ref<SheetRow | undefined>>
}

/**
 * Where many rows come or go at once, by folding or by what is looked for, the sheet shows the row that the keyboard is on. `reveal` goes
 * to the row of a record.
 */
export function useKeptInView(scroller: Ref<HTMLElement | undefined>, sought: Readonly<Ref<string>>, { activeIndex, activeRow }: Active, scrollTo: (index: number) => void, reveal: (key: string) => void) {
  const sheet = useSheetStore()
  /** Where it was scrolled to before something was looked for. */
  let topBefore = 0

  /** Shows it once the rows are others; `otherwise`: where the keyboard is in none of them. */
  function show(otherwise: () => void): void {
    void nextTick(() => {
      if (activeIndex.value >= 0) scrollTo(activeIndex.value)
      else otherwise()
    })
  }

  watch(sought, (now, before) => {
    const sheetNow = scroller.value
    if (!sheetNow) return
    if (!before) topBefore = sheetNow.scrollTop
    // Before anything is drawn anew: afterwards the browser would have to lay it all out for that alone.
    if (now && activeIndex.value < 0) sheetNow.scrollTop = 0
    else show(() => (sheetNow.scrollTop = topBefore))
  })

  /** Who stood on a row that is folded away stands on its place. */
  function onPlaceOf(row: SheetRow | undefined): void {
    const place = itemOf(row)?.row.place
    if (place) reveal(place)
  }

  /** One place is folded where one looks, wherever the keyboard is. */
  function fold(place: string): void {
    const before = activeRow.value
    sheet.fold(place)
    void nextTick(() => {
      if (activeIndex.value < 0) onPlaceOf(before)
    })
  }

  function foldAll(): void {
    const before = activeRow.value
    sheet.foldAll()
    show(() => onPlaceOf(before))
  }

  return { fold, foldAll }
}
