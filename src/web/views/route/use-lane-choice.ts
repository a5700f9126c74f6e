import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder } from '../../../core/plan/records.ts'
import type { LaneId } from '../../../core/view/lanes.ts'
import { sameFields, stable } from '../../stable.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** A part of a lane's scale that fills it: `times` as large, with `at` in the middle. */
export interface Zoom {
  times: number
  at: number
}

interface LaneSettings {
  order: string[]
  hidden: string[]
  wide: string | null
  zoom: Record<string, Zoom>
}

export interface LaneName {
  id: LaneId
  name: string
}

const none: LaneSettings = { order: [], hidden: [], wide: null, zoom: {} }

/** Which lanes are shown, in which order, which of them is wide and how far it is zoomed; kept for each plan. */
export function useLaneChoice() {
  const plan = usePlanStore()
  const kept = useLocalStorage<Record<string, LaneSettings>>('tundrift.lanes', {})
  const settings = computed(() => kept.value[plan.id ?? ''] ?? none)
  const set = (change: Partial<LaneSettings>) => (kept.value = { ...kept.value, [plan.id ?? '']: { ...settings.value, ...change } })

  /** Every lane that there could be: levels, then what is counted, then flags and the XP of levels. */
  const all = stable((): LaneName[] => {
    if (!plan.records) return []
    const characters = inOrder(plan.records, 'character')
    const heard = new Set(characters.map((c) => c.experience))
    const tallies = inOrder(plan.records, 'tally').map((t) => ({ id: `tally ${t.id}` as LaneId, name: labelOf(t), late: t.kind === 'flag' || heard.has(t.id) }))
    const found: LaneName[] = [...characters.map((c) => ({ id: `level ${c.id}` as LaneId, name: `${labelOf(c)}, level` })), ...tallies.filter((t) => !t.late), ...tallies.filter((t) => t.late)]
    const rank = (id: string) => (settings.value.order.includes(id) ? settings.value.order.indexOf(id) : found.length)
    return found.map((lane, i) => ({ lane, i })).sort((a, b) => rank(a.lane.id) - rank(b.lane.id) || a.i - b.i).map(({ lane }) => lane)
  }, (a, b) => a.length === b.length && a.every((lane, i) => sameFields(lane, b[i]!)))
  const isShown = (id: string) => !settings.value.hidden.includes(id)
  const shown = computed(() => all.value.filter((lane) => isShown(lane.id)))
  const wide = computed(() => shown.value.find((lane) => lane.id === settings.value.wide)?.id ?? shown.value[0]?.id ?? null)
  const zoomOf = (id: string): Zoom | null => settings.value.zoom[id] ?? null

  function widen(id: string): void {
    set({ wide: id, hidden: settings.value.hidden.filter((other) => other !== id) })
  }

  function toggle(id: string): void {
    set({ hidden: isShown(id) ? [...settings.value.hidden, id] : settings.value.hidden.filter((other) => other !== id) })
  }

  function move(id: string, by: 1 | -1): void {
    const order = all.value.map((lane) => lane.id as string)
    const at = order.indexOf(id)
    if (at + by < 0 || at + by >= order.length) return
    order.splice(at, 1)
    order.splice(at + by, 0, id)
    set({ order })
  }

  function setZoom(id: string, zoom: Zoom | null): void {
    const { [id]: _, ...others } = settings.value.zoom
    set({ zoom: zoom && zoom.times > 1 ? { ...others, [id]: zoom } : others })
  }

  return { all, shown, wide, isShown, zoomOf, widen, toggle, move, setZoom }
}
export type LaneChoice = ReturnType<typeof useLaneChoice>
