import { defineStore } from 'pinia'
import { shallowRef, watch } from 'vue'
import { usePlanStore } from '../../stores/plan.ts'
import type { Cell } from './sheet-actions.ts'

/** How the sheet of a plan was left: where it was scrolled to, in pixels, its active row and cell, and what was looked for. */
export interface LeftSheet {
  /** Its id. */
  plan: string
  top: number
  row: string | null
  cell: Cell
  wanted: string
}

/** What of the sheet lasts while other views are looked at: places that are folded, by key, and how it was left. */
export const useSheetStore = defineStore('sheet', () => {
  const plan = usePlanStore()
  const folded = shallowRef<ReadonlySet<string>>(new Set())
  const left = shallowRef<LeftSheet | null>(null)

  function fold(key: string): void {
    const next = new Set(folded.value)
    if (!next.delete(key)) next.add(key)
    folded.value = next
  }

  function foldAll(): void {
    const places = plan.records ? [...plan.records.place.keys()] : []
    folded.value = new Set(folded.value.size ? [] : places)
  }

  watch(() => plan.id, () => (folded.value = new Set()))

  return { folded, left, fold, foldAll }
})
