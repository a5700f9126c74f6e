import { storeToRefs } from 'pinia'
import { computed, type Ref } from 'vue'
import { inOrder } from '../../../core/plan/records.ts'
import { sameList } from '../../../core/plan/same-list.ts'
import { isTrouble, type StopResult } from '../../../core/check/result.ts'
import type { RouteTrace } from '../../../core/check/route/trace.ts'
import { itemsOfRows, outlineOf, type Outline } from '../../../core/view/lane-rows.ts'
import { laneDomain, laneLines, type LaneId, type LaneLine, type ShownLine } from '../../../core/view/lanes.ts'
import { levelTicks } from '../../../core/view/level-axis.ts'
import { pegsOf, type Peg } from '../../../core/view/pegs.ts'
import { placeSums, type PlaceSum } from '../../../core/view/place-sums.ts'
import { gateRowsOf, sheetRows, type GateRows } from '../../../core/view/sheet.ts'
import { threadOf } from '../../../core/view/threads.ts'
import { drawnLane, type DrawnLane } from '../../draw/lane-scale.ts'
import { ThreadRuns, type ThreadRun } from '../../draw/thread-runs.ts'
import { sameFields, stable } from '../../stable.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSheetStore } from './sheet-store.ts'
import { useFind } from './use-find.ts'
import type { LaneChoice } from './use-lane-choice.ts'

const narrowWidth = 70
const leastWide = 250

/** The rows of the sheet and the lanes beside them, as they are drawn. `width`: pixels there are for lanes. */
export function useSheet(width: Ref<number>, choice: LaneChoice) {
  const plan = usePlanStore()
  const check = useCheckStore()
  const { folded } = storeToRefs(useSheetStore())

  const rowsWhere = (hidden: ReadonlySet<string>) => (plan.records ? sheetRows(plan.records, check.routeKey, hidden) : [])
  const nothing: ReadonlySet<string> = new Set()
  const openRows = computed(() => rowsWhere(nothing))
  const foldedRows = computed(() => (folded.value.size ? rowsWhere(folded.value) : openRows.value))
  const { search, ...find } = useFind(openRows)
  /** The rows among which those that are shown were found: all of them, where nothing is looked for. */
  const allRows = computed(() => (search.value ? openRows.value : foldedRows.value))
  /** By row that is shown which of all it is; null: all are shown. */
  const indices = computed(() => search.value?.indices ?? null)
  const rows = computed(() => search.value?.rows ?? foldedRows.value)
  const found = computed(() => search.value?.found.length ?? 0)
  /** The first of them among the rows that are shown. */
  const firstFound = computed(() => search.value?.first ?? 0)
  const leader = computed(() => (plan.records ? (inOrder(plan.records, 'character')[0]?.id ?? null) : null))
  const sums = computed(() => (plan.records ? placeSums(plan.records) : new Map<string, readonly PlaceSum[]>()))

  /** What of the rows the lanes are drawn from: most edits leave it as it is. What is found is drawn as it stands among all rows. */
  const rowsWithOutline = computed<Outline>((before) => outlineOf(allRows.value, before))
  const outline = computed(() => rowsWithOutline.value.lanes)

  const allWithGates = computed<GateRows>((before) => gateRowsOf(allRows.value, before))
  /** The same again after edits of no gate. */
  const allGates = computed(() => allWithGates.value.gates)
  const gateRows = computed(() => (search.value ? gateRowsOf(rows.value).gates : allGates.value))
  const noPegs: readonly Peg[] = []
  function pegsAt(index: number): readonly Peg[] {
    const row = rows.value[index]
    return row?.type === 'gate' ? pegsOf(row.gate, leader.value) : noPegs
  }

  function ticksOf(id: LaneId) {
    if (!plan.records || !id.startsWith('level ')) return null
    const character = inOrder(plan.records, 'character').find((c) => `level ${c.id}` === id)
    const curve = character && inOrder(plan.records, 'curve').find((c) => c.id === character.curve)
    return curve ? levelTicks(curve) : null
  }

  /** Lanes for which there is room: the wide one first. */
  const shownLanes = computed(() => {
    const { shown, wide } = choice
    const ordered = [...shown.value.filter((l) => l.id === wide.value), ...shown.value.filter((l) => l.id !== wide.value)]
    const narrow = Math.max(0, Math.min(ordered.length - 1, Math.floor((width.value - leastWide) / narrowWidth)))
    return ordered.slice(0, narrow + 1)
  })
  const allLines = computed(() => linesOf(check.trace, check.stops))
  const lines = computed(() => shownOf(allLines.value))
  const allOthers = computed(() => check.others.filter((other) => other.key !== check.profileKey).map(({ name, trace, stops }) => ({ name, lines: linesOf(trace, stops) })))
  const others = computed(() => allOthers.value.map((other) => ({ ...other, lines: shownOf(other.lines) })))

  function linesOf(trace: RouteTrace | null, stops: readonly StopResult[] | null): ReadonlyMap<LaneId, LaneLine> {
    if (!trace || !stops) return new Map()
    const rows = outline.value
    return laneLines({ rows, items: itemsOfRows(rows, trace), trace, stops }, shownLanes.value.map(({ id }) => id))
  }

  /** Lines at the rows that are shown. */
  function shownOf(all: ReadonlyMap<LaneId, LaneLine>): ReadonlyMap<LaneId, ShownLine> {
    const among = indices.value
    return among ? new Map([...all].map(([id, line]) => [id, line.among(among)])) : all
  }

  /** By lane the thresholds that the route comes to. A scale does not change with what is found: one finds one's way on it. */
  const thresholds = stable(() => {
    const byLane = new Map<LaneId, number[]>()
    const of = leader.value
    for (const { gate, stop } of allGates.value) {
      if (stop === null) continue
      for (const { lane, at } of pegsOf(gate, of)) {
        const all = byLane.get(lane)
        if (all) all.push(at)
        else byLane.set(lane, [at])
      }
    }
    return [...byLane].map(([lane, all]) => ({ lane, low: Math.min(...all), high: Math.max(...all) }))
  }, (a, b) => a.length === b.length && a.every((range, i) => sameFields(range, b[i]!)))

  const lanes = stable<DrawnLane[]>((before = []) => {
    const wideWidth = Math.max(leastWide, width.value - (shownLanes.value.length - 1) * narrowWidth)
    return shownLanes.value.map((lane, i) => {
      const line = lines.value.get(lane.id) ?? null
      const beside = others.value.map(({ name, lines: all }) => ({ name, line: all.get(lane.id)! }))
      const levels = ticksOf(lane.id)
      const range = thresholds.value.find((one) => one.lane === lane.id)
      const extents = [allLines.value, ...allOthers.value.map((other) => other.lines)].map((all) => all.get(lane.id)?.extent ?? null)
      const domain = laneDomain(extents, range ? [range.low, range.high] : [], levels !== null)
      const left = i === 0 ? 0 : wideWidth + (i - 1) * narrowWidth
      const place = { left, width: i === 0 ? wideWidth : narrowWidth, wide: i === 0 }
      return drawnLane({ id: lane.id, name: lane.name, line, others: beside, levels, zoom: choice.zoomOf(lane.id), low: domain[0], high: domain[1], ...place }, before[i])
    })
  }, sameList)
  /** Lanes that are to be shown, but for which there is no room. */
  const crowded = computed(() => choice.shown.value.filter((lane) => !shownLanes.value.some((shown) => shown.id === lane.id)))

  /** From each gate in trouble to where the line gets to what it asks for. */
  const threads = computed<ThreadRuns>((before) => {
    const runs = new ThreadRuns(before)
    const [drawn, results, of] = [lanes.value, check.gatesById, leader.value]
    for (const { row, gate } of gateRows.value) {
      if (!isTrouble(results.get(gate.id)?.verdict)) continue
      for (const peg of pegsOf(gate, of)) {
        const lane = drawn.find((one) => one.id === peg.lane)
        const thread = lane?.line && peg.op.startsWith('>') ? threadOf(lane.line, row, peg.at) : null
        if (thread) runs.add(lane!, thread)
      }
    }
    return runs
  })
  const threadsAt = (index: number): readonly ThreadRun[] => threads.value.at(index)

  return { rows, allRows, indices, lanes, crowded, threadsAt, pegsAt, gateRows, sums, find, found, firstFound, leader }
}
