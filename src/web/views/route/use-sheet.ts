import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'
import { inOrder } from '../../../core/plan/records.ts'
import { lanePoints, type LaneId } from '../../../core/view/lanes.ts'
import { levelTicks } from '../../../core/view/level-axis.ts'
import { pegsOf, type Peg } from '../../../core/view/pegs.ts'
import { sheetRows } from '../../../core/view/sheet.ts'
import { threadOf, type Thread } from '../../../core/view/threads.ts'
import { drawnLane, type DrawnLane } from '../../draw/lane-scale.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'

const narrowWidth = 70
const leastWide = 250

/** The rows of the sheet and the lanes beside them, as they are drawn. `width`: pixels there are for lanes. */
export function useSheet(width: Ref<number>) {
  const plan = usePlanStore()
  const check = useCheckStore()
  const folded = ref(new Set<string>())
  const wideLane = useLocalStorage<Record<string, string>>('tundrift.wide-lane', {})

  const rows = computed(() => (plan.records ? sheetRows(plan.records, check.routeKey, folded.value) : []))
  const leader = computed(() => (plan.records ? (inOrder(plan.records, 'character')[0]?.id ?? null) : null))

  const laneChoices = computed(() => {
    if (!plan.records) return []
    const characters = inOrder(plan.records, 'character').map((c) => ({ id: `level ${c.id}` as LaneId, name: `${c.name || c.id}, level` }))
    const heard = new Set(inOrder(plan.records, 'character').map((c) => c.experience))
    const tallies = inOrder(plan.records, 'tally').map((t) => ({ id: `tally ${t.id}` as LaneId, name: t.name || t.id, late: t.kind === 'flag' || heard.has(t.id) }))
    return [...characters, ...tallies.filter((t) => !t.late), ...tallies.filter((t) => t.late)]
  })
  const wide = computed(() => {
    const wanted = wideLane.value[plan.id ?? '']
    return laneChoices.value.find((lane) => lane.id === wanted)?.id ?? laneChoices.value[0]?.id ?? null
  })
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

  const lanes = computed((): DrawnLane[] => {
    const ordered = [...laneChoices.value.filter((l) => l.id === wide.value), ...laneChoices.value.filter((l) => l.id !== wide.value)]
    const narrow = Math.max(0, Math.min(ordered.length - 1, Math.floor((width.value - leastWide) / narrowWidth)))
    const wideWidth = Math.max(leastWide, width.value - narrow * narrowWidth)
    return ordered.slice(0, narrow + 1).map((lane, i) => {
      const { trace, result } = check.view ?? {}
      const points = trace && result ? lanePoints(rows.value, trace, result.stops, lane.id) : rows.value.map(() => null)
      const thresholds = [...pegsByRow.value].flatMap(([row, pegs]) => (points[row] ? pegs.filter((p) => p.lane === lane.id).map((p) => p.at) : []))
      const left = i === 0 ? 0 : wideWidth + (i - 1) * narrowWidth
      return drawnLane({ id: lane.id, name: lane.name, points, thresholds, levels: ticksOf(lane.id) }, left, i === 0 ? wideWidth : narrowWidth, i === 0)
    })
  })
  const hiddenLanes = computed(() => laneChoices.value.filter((lane) => !lanes.value.some((shown) => shown.id === lane.id)))

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

  function widen(id: string): void {
    wideLane.value = { ...wideLane.value, [plan.id ?? '']: id }
  }

  function fold(key: string): void {
    const next = new Set(folded.value)
    if (!next.delete(key)) next.add(key)
    folded.value = next
  }

  function foldAll(): void {
    const places = plan.records ? [...plan.records.place.keys()] : []
    folded.value = folded.value.size ? new Set() : new Set(places)
  }

  watch(() => plan.id, () => (folded.value = new Set()))

  return { rows, lanes, hiddenLanes, threads, pegsByRow, folded, widen, fold, foldAll }
}
