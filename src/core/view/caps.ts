import { labelOf } from '../plan/label-of.ts'
import { allCharacters } from '../plan/references.ts'
import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'

/** A level cap of a character, and what sets it. `place`: where that is; null: at the start, or anywhere. */
export interface CapWall {
  level: number
  by: string
  place: string | null
}

/** Every cap that a character can have, the one at the start first, then as the places come. */
export function capsOf(records: Records, character: { id: string; cap: number | null }): CapWall[] {
  const contents = contentsByPlace(records)
  const places = [...inOrder(records, 'place').map((row) => ({ key: row.key as string | null, name: labelOf(row) })), { key: null, name: null }]
  const set = places.flatMap(({ key, name }) => (contents.get(key) ?? []).flatMap(({ row }) =>
    row.caps.filter((cap) => cap.character === allCharacters || cap.character === character.id).map((cap): CapWall => ({ level: cap.level, by: labelOf(row), place: name }))))
  return [...(character.cap === null ? [] : [{ level: character.cap, by: 'at the start', place: null }]), ...set]
}
