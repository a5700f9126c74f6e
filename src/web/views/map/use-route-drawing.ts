import { ref, type Ref } from 'vue'
import { addRecord, freeId } from '../../../core/change/edits.ts'
import { leadsTo } from '../../../core/plan/place.ts'
import type { MapData, MapPlace } from '../../../core/view/map.ts'
import { newKey } from '../../new-key.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'

/** A new route drawn on the map: places chosen one after another. `begun`: the map is to have the keyboard. */
export function useRouteDrawing(data: Readonly<Ref<MapData | null>>, placeOf: Readonly<Ref<ReadonlyMap<string, MapPlace>>>, begun: () => void) {
  const plan = usePlanStore()
  const check = useCheckStore()
  const selection = useSelectionStore()
  /** The keys of its stops so far; null: none is drawn. */
  const drawing = ref<string[] | null>(null)
  const drawingSays = ref('')

  function beginRoute(): void {
    drawing.value = selection.chosen?.kind === 'place' ? [selection.chosen.key] : []
    drawingSays.value = ''
    begun()
  }

  /** The next stop: it has to be joined to the one before. */
  function draw(key: string): void {
    const before = drawing.value?.at(-1)
    const isJoined = before === undefined || data.value?.passages.some((passage) => leadsTo(passage, before) === key)
    drawingSays.value = isJoined ? '' : `${placeOf.value.get(before!)?.name} and ${placeOf.value.get(key)?.name} are not joined by a passage.`
    if (isJoined && key !== before) drawing.value = [...drawing.value!, key]
  }

  function endRoute(): void {
    const stops = drawing.value?.flatMap((key) => placeOf.value.get(key)?.id ?? []) ?? []
    drawing.value = null
    if (!plan.records || stops.length === 0) return
    const key = newKey()
    plan.edit(addRecord(plan.records, 'route', key, { id: freeId(plan.records, 'route', 'drawn route'), name: 'Drawn route', stops }))
    selection.choose('route', key)
    check.routeKey = key
  }

  return { drawing, drawingSays, beginRoute, draw, endRoute }
}
