import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue'
import { findRows, findRowsInSteps, readyToFind, type Found } from '../../../core/view/find-rows.ts'
import type { Records } from '../../../core/plan/records.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { inTurns, type Turns } from '../../in-turns.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** In more rows than these is looked only when typing rests, for so many milliseconds. */
const large = 5_000
const pause = 220
/** Between two turns of looking the page is drawn, and what is typed is heard. */
const others: Turns<void> = { turn: 6, pause: () => new Promise((done) => setTimeout(done)) }

/** What was looked for beforehand, in what, and what was found. */
interface Beforehand {
  records: Records
  rows: readonly SheetRow[]
  text: string
  found: Found
}

/** Looking for rows: those without what is wanted are folded away. `all`: whatever is folded away otherwise. */
export function useFind(all: ComputedRef<SheetRow[]>) {
  const plan = usePlanStore()
  /** What is typed. */
  const wanted = ref('')
  /** What is looked for; empty: nothing is. */
  const sought = ref('')
  const beforehand = shallowRef<Beforehand | null>(null)
  /** What was found stays while the same is looked for, whatever is changed in it: who mends one row after another goes on. */
  const searched = computed<{ text: string; found: Found } | null>((before) => {
    const { records } = plan
    const text = sought.value
    if (!records || !text) return null
    const known = beforehand.value
    if (known && known.records === records && known.rows === all.value && known.text === text) return { text, found: known.found }
    return { text, found: findRows(records, all.value, text, new Set(before?.text === text ? before.found.found : [])) }
  })
  const search = computed(() => searched.value?.found ?? null)
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

  /** Looks a little at a time, and shows what was found all at once. */
  async function seekWhenReady(text: string): Promise<void> {
    const [{ records }, rows] = [plan, all.value]
    if (!records) return
    const found = await inTurns(findRowsInSteps(records, rows, text.trim()), () => wanted.value === text, others)
    if (!found) return
    beforehand.value = { records, rows, text: text.trim(), found }
    seek()
  }

  /** What is looked in is made ready: whoever comes to look for rows types on soon. */
  async function prepare(): Promise<void> {
    const [{ records }, rows] = [plan, all.value]
    if (records && rows.length > large) await inTurns(readyToFind(records, rows), () => true, others)
  }

  watch(() => plan.id, () => (wanted.value = ''))

  return { wanted, sought, search, seek, prepare }
}
