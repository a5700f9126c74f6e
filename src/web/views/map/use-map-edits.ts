import { computed } from 'vue'
import { addRecord, freeId, removeRecords } from '../../../core/change/edits.ts'
import { addGateOnPassage, addGateOnPlace, addPlaceBeside, turnOneWay } from '../../../core/change/map-edits.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { newKey } from '../../new-key.ts'

/** What is changed in the map: places and passages made, joined, turned and deleted, gates put on them. */
export function useMapEdits() {
  const plan = usePlanStore()
  const selection = useSelectionStore()
  const chosenKind = computed(() => selection.chosen?.kind)
  const chosenKey = computed(() => selection.chosen?.key ?? '')
  function addPlace(): void {
    if (!plan.records) return
    const keys = { place: newKey(), passage: newKey() }
    plan.edit(addPlaceBeside(plan.records, keys, chosenKind.value === 'place' ? chosenKey.value : null))
    selection.choose('place', keys.place)
  }
  function addGate(): void {
    if (!plan.records) return
    const key = newKey()
    const diff = chosenKind.value === 'passage' ? addGateOnPassage(plan.records, key, chosenKey.value) : addGateOnPlace(plan.records, key, chosenKey.value)
    if (!diff) return
    plan.edit(diff)
    selection.choose('gate', key)
  }
  function turn(): void {
    const diff = plan.records && turnOneWay(plan.records, chosenKey.value)
    if (diff) plan.edit(diff)
  }
  const deletable: ReadonlySet<string | undefined> = new Set(['place', 'passage', 'gate'])
  function remove(): void {
    if (!plan.records || !selection.chosen || !deletable.has(chosenKind.value)) return
    plan.edit(removeRecords(plan.records, [selection.chosen]))
    selection.clear()
  }
  function joinPlaces(from: string, to: string): void {
    if (!plan.records || from === to) return
    const [a, b] = [plan.records.place.get(from)!, plan.records.place.get(to)!]
    const key = newKey()
    plan.edit({ ...addRecord(plan.records, 'passage', key, { id: freeId(plan.records, 'passage', `${a.id}_to_${b.id}`), from: a.id, to: b.id, twoWay: true }), name: `join ${labelOf(a)} to ${labelOf(b)}` })
    selection.choose('passage', key)
  }

  return { chosenKind, chosenKey, addPlace, addGate, turn, remove, joinPlaces, isDeletable: computed(() => deletable.has(chosenKind.value)) }
}
