import { computed, ref, watch, type Ref } from 'vue'
import { inOrder } from '../../../core/plan/records.ts'
import { findRows } from '../../../core/view/find-rows.ts'
import { lanePoints, type LaneId } from '../../../core/view/lanes.ts'
import { levelTicks } from '../../../core/view/level-axis.ts'
import { pegsOf, type Peg } from '../../../core/view/pegs.ts'
import { placeSums, type PlaceSum } from '../../../core/view/place-sums.ts'
import { sheetRows } from '../../../core/view/sheet.ts'
import { threadOf, type Thread } from '../../../core/view/threads.ts'
import { drawnLane, type DrawnLane } from '../../draw/lane-scale.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import type { LaneChoice } from './use-lane-choice.ts'

const narrowWidth = 70
const leastWide = 250

/** The rows of the sheet and the lanes beside them, as they are drawn. `width`: pixels there are for lanes. */
export function useSheet(width: Ref<number>, choice: LaneChoice) {
  const plan = usePlanStore()
  const check = useCheckStore()
  const folded = ref(new Set<string>())
  /** What is looked for: rows without it are folded away. */
  const wanted = ref('')

  const unfolded = new Set<string>()
  const allRows = computed(() => (plan.records ? sheetRows(plan.records, check.routeKey, wanted.value.trim() ? unfolded : folded.value) : []))
  const search = computed(() => (plan.records ? findRows(plan.records, allRows.value, wanted.value) : { rows: [], found: 0 }))
  const rows = computed(() => (wanted.value.trim() ? search.value.rows : allRows.value))
  const found = computed(() => search.value.found)
  const leader = computed(() => (plan.records ? (inOrder(plan.records, 'character')[0]?.id ?? null) : null))
  const sums = computed(() => (plan.records ? placeSums(plan.records) : new Map<string, PlaceSum[]>()))

  const pegsByRow = computed(() => {
    const byRow = new Map<number, Peg[]>()
    rows.value.forEach((row, i) => {
      if (row.type === 'gate') byRow.set(i, pegsOf(row.gate, leader.value))
    })
    return byRow
  })

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
  const lanes = computed((): DrawnLane[] => {
    const wideWidth = Math.max(leastWide, width.value - (shownLanes.value.length - 1) * narrowWidth)
    return shownLanes.value.map((lane, i) => {
      const { trace, result } = check.view ?? {}
      const points = trace && result ? lanePoints(rows.value, trace, result.stops, lane.id) : rows.value.map(() => null)
      const others = check.others.filter((other) => other.key !== check.profileKey).map(({ name, trace: walk, stops }) => ({ name, points: lanePoints(rows.value, walk, stops, lane.id) }))
      const thresholds = [...pegsByRow.value].flatMap(([row, pegs]) => (points[row] ? pegs.filter((p) => p.lane === lane.id).map((p) => p.at) : []))
      const left = i === 0 ? 0 : wideWidth + (i - 1) * narrowWidth
      return drawnLane({ id: lane.id, name: lane.name, points, others, thresholds, levels: ticksOf(lane.id), zoom: choice.zoomOf(lane.id) }, left, i === 0 ? wideWidth : narrowWidth, i === 0)
    })
  })
  /** Lanes that are to be shown, but for which there is no room. */
  const crowded = computed(() => choice.shown.value.filter((lane) => !shownLanes.value.some((shown) => shown.id === lane.id)))

  /** By row: threads that begin at or pass it, with the lane they are in. */
  const threads = computed(() => {
    const all: (Thread & { lane: DrawnLane })[] = []
    for (const lane of lanes.value) {
      for (const [row, pegs] of pegsByRow.value) {
        const gate = rows.value[row]
        if (gate?.type !== 'gate' || !['short', 'sealed', 'depends'].includes(check.gate(gate.gate.id)?.verdict ?? '')) continue
        for (const peg of pegs) {
          const thread = peg.lane === lane.id && peg.op.startsWith('>') ? threadOf(lane.points, row, peg.at) : null
          if (thread) all.push({ ...thread, lane })
        }
      }
    }
    return all
  })

  function fold(key: string): void {
    const next = new Set(folded.value)
    if (!next.delete(key)) next.add(key)
    folded.value = next
  }

  function foldAll(): void {
    const places = plan.records ? [...plan.records.place.keys()] : []
    folded.value = folded.value.size ? new Set() : new Set(places)
  }

  watch(() => plan.id, () => {
    folded.value = new Set()
    wanted.value = ''
  })

  return { rows, lanes, crowded, threads, pegsByRow, sums, folded, wanted, found, leader, fold, foldAll }
}
