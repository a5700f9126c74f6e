import { computed, ref, watch, type ComputedRef } from 'vue'
import { findRows, prepareToFind } from '../../../core/view/find-rows.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** In more rows than these is looked only when typing rests, for so many milliseconds. */
const large = 5_000
const pause = 220
/** Rows made ready in one go, and for how many milliseconds before others have their turn. */
const slice = 200
const turn = 6

/** Looking for rows: those without what is wanted are folded away. `all`: whatever is folded away otherwise. */
export function useFind(all: ComputedRef<SheetRow[]>) {
  const plan = usePlanStore()
  /** What is typed. */
  const wanted = ref('')
  /** What is looked for; empty: nothing is. */
  const sought = ref('')
  const search = computed(() => (plan.records && sought.value ? findRows(plan.records, all.value, sought.value) : null))
  let timer: ReturnType<typeof setTimeout> | undefined

  function seek(): void {
    clearTimeout(timer)
    sought.value = wanted.value.trim()
  }

  watch(wanted, (text) => {
    clearTimeout(timer)
    if (all.value.length <= large || text.trim() === '') seek()
    else timer = setTimeout(() => void seekWhenReady(text), pause)
  }, { flush: 'sync' })

  async function seekWhenReady(text: string): Promise<void> {
    await look(text, () => wanted.value === text)
    if (wanted.value === text) seek()
  }

  /** What is looked in is made ready: whoever comes to look for rows types on soon. */
  const prepare = () => look('', () => true)

  /** Looks in all rows beforehand, a little at a time, as long as that is wanted. */
  async function look(text: string, isWanted: () => boolean): Promise<void> {
    const [records, rows] = [plan.records, all.value]
    if (!records || rows.length <= large) return
    let began = performance.now()
    for (let next = 0; next < rows.length && isWanted(); next += slice) {
      prepareToFind(records, rows, text, next, next + slice)
      if (performance.now() - began < turn) continue
      await new Promise((done) => setTimeout(done))
      began = performance.now()
    }
  }

  watch(() => plan.id, () => (wanted.value = ''))

  return { wanted, sought, search, seek, prepare }
}
