import { useEventListener, useRafFn } from '@vueuse/core'
import { shallowRef, type Ref } from 'vue'
import { canStand, setFields } from '../../../core/change/edits.ts'
import type { Diff } from '../../../core/change/diff.ts'
import { withThreshold } from '../../../core/change/threshold.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import type { ItemRow, Records, Row } from '../../../core/plan/records.ts'
import { countText, numberText } from '../../../core/view/numbers.ts'
import type { Peg } from '../../../core/view/pegs.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import { useCheckStore } from '../../stores/check.ts'
import type { Turn } from '../../../core/view/turns.ts'
import { draggedTo, paceAt } from './dragged-to.ts'
import { dropRows, dropSpot, itemOf } from './sheet-actions.ts'

/** What is being dragged, what it would become, and the verdicts that it would alter; null: nothing is. */
export interface Drag {
  says: string
  diff: Diff | null
  /** null while it is worked out. */
  turns: Turn[] | null
  x: number
  y: number
  /** The peg, where one is dragged, and where it stands now. */
  peg?: { row: string; index: number; at: number }
  /** The row above which the dragged row would be put. */
  before?: number
}

/** So far a pointer moves before it drags. */
const threshold = 4

/** The sheet under the pointer: which row lies at a height of the screen, what scrolls, and what becomes of what is let go. */
interface Ground {
  rowAt: (clientY: number) => number
  scroller: Readonly<Ref<HTMLElement | undefined>>
  drop: (diff: Diff) => void
}

/** Pegs and rows that are dragged: while they are, what it would alter is worked out and shown; Esc lets them be. */
export function useDrag(records: () => Records, rows: Ref<readonly SheetRow[]>, { rowAt, scroller, drop }: Ground, chosen: () => readonly ItemRow[]) {
  const check = useCheckStore()
  const drag = shallowRef<Drag | null>(null)
  let move: ((event: PointerEvent) => Omit<Drag, 'turns' | 'x' | 'y'> | null) | null = null
  let start: { x: number; y: number } | null = null
  let last = ''
  let held: PointerEvent | null = null

  function begin(event: PointerEvent, moved: NonNullable<typeof move>): void {
    if (event.button !== 0) return
    start = { x: event.clientX, y: event.clientY }
    move = moved
    last = ''
  }

  /** `lane`: in which the peg stands, whose scale turns pixels into amounts; `left`: where the lanes begin on the screen. */
  function pegDown(event: PointerEvent, gate: Row<'gate'>, peg: Peg, lane: DrawnLane, left: number): void {
    event.stopPropagation()
    begin(event, ({ clientX }) => {
      const at = draggedTo(lane.scale.invert(clientX - left), peg, lane.scale.domain() as [number, number])
      const asked = withThreshold(gate, peg, at)
      if (!asked) return null
      const isSame = at === peg.at
      const diff = isSame ? null : setFields(records(), 'gate', gate.key, asked, `${labelOf(gate)} asks for ${numberText(at)} instead of ${numberText(peg.at)}`)
      return { says: `${labelOf(gate)}: ${peg.text} → ${numberText(at)}`, diff, peg: { row: gate.key, index: peg.index, at } }
    })
  }

  /** A row that is among those chosen takes them along. */
  function rowDown(event: PointerEvent, row: SheetRow): void {
    const item = itemOf(row)
    if (!item) return
    const isOneOf = chosen().some((other) => other.row.key === item.row.key)
    const items = isOneOf ? chosen() : [item]
    begin(event, ({ clientY }) => {
      const before = rowAt(clientY)
      const spot = dropSpot(records(), rows.value, before)
      if (!spot) return null
      if (!canStand(items, spot)) return { says: 'a source stands in a place: only gates stand anywhere', diff: null }
      const isSame = items.length === 1 && (rows.value[before - 1]?.id === row.id || rows.value[before]?.id === row.id)
      const place = records().place.get(spot.place ?? '')
      const what = items.length === 1 ? labelOf(item.row) : countText(items.length, 'row')
      return { says: `move ${what}${place ? ` to ${labelOf(place)}` : ''}`, diff: isSame ? null : dropRows(records(), rows.value, items, before), before }
    })
  }

  useEventListener('pointermove', (event: PointerEvent) => {
    held = event
    follow(event)
    if (drag.value?.before !== undefined) resume()
  })

  function follow(event: PointerEvent): void {
    if (!move || !start) return
    const isFar = Math.abs(event.clientX - start.x) + Math.abs(event.clientY - start.y) >= threshold
    if (!drag.value && !isFar) return
    const next = move(event)
    if (!next) return
    event.preventDefault()
    const key = JSON.stringify([next.says, next.before])
    const turns = key === last ? drag.value!.turns : next.diff ? null : []
    drag.value = { ...next, turns, x: event.clientX, y: event.clientY }
    if (key === last) return
    last = key
    if (next.diff) void lookAhead(next.diff, key)
  }

  const { pause, resume } = useRafFn(() => {
    const by = held && scroller.value ? paceAt(held.clientY, scroller.value.getBoundingClientRect()) : 0
    if (by === 0) return
    scroller.value!.scrollTop += by
    follow(held!)
  }, { immediate: false })

  async function lookAhead(diff: Diff, key: string): Promise<void> {
    const turns = await check.preview(diff)
    if (turns && last === key && drag.value) drag.value = { ...drag.value, turns }
  }

  function end(): void {
    pause()
    move = null
    start = null
    drag.value = null
  }

  useEventListener('pointerup', () => {
    const done = drag.value?.diff
    end()
    if (done) drop(done)
  })
  useEventListener('pointercancel', end)
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || !drag.value) return
    event.preventDefault()
    event.stopPropagation()
    end()
  }, { capture: true })

  return { drag, pegDown, rowDown }
}
