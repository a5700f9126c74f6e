import type { Move } from '../check/result.ts'
import { byId, inOrder, type Records } from '../plan/records.ts'
import { countText, numberText } from './numbers.ts'

/** What is done in one place of a witness before it is left. `first`: the number of its first move, from 1. */
export interface WitnessPart {
  /** Id of the place, and its name. */
  id: string
  place: string
  first: number
  moves: number
  deeds: string[]
}

/** A witness as a person would tell it: place by place, the same move several times as one. */
export function witnessParts(records: Records, moves: readonly Move[]): WitnessPart[] {
  const passages = new Map(inOrder(records, 'passage').map((row) => [row.id, row]))
  let at = records.head.start
  const parts: WitnessPart[] = [{ id: at, place: placeName(records, at), first: 1, moves: 0, deeds: [] }]
  let last: { name: string; units: number } | null = null
  moves.forEach((move, i) => {
    const part = parts.at(-1)!
    if ('go' in move) {
      const passage = passages.get(move.go)
      at = passage ? (passage.from === at ? passage.to : passage.from) : at
      parts.push({ id: at, place: placeName(records, at), first: i + 1, moves: 1, deeds: [] })
      last = null
      return
    }
    part.moves++
    const name = 'take' in move ? `take ${labelOf(records, 'source', move.take)}${outcomeText(move.outcome)}` : `open ${labelOf(records, 'gate', move.open)}`
    if (last?.name === name) part.deeds.pop()
    last = { name, units: last?.name === name ? last.units + 1 : 1 }
    part.deeds.push(last.units > 1 ? `${name}, ${countText(last.units, 'unit')}` : name)
  })
  return parts.filter((part) => part.moves > 0)
}

function outcomeText(outcome: Record<string, number> | undefined): string {
  const parts = Object.entries(outcome ?? {}).map(([tally, amount]) => `${numberText(amount)} ${tally}`)
  return parts.length ? ` for ${parts.join(', ')}` : ''
}

function placeName(records: Records, id: string): string {
  return labelOf(records, 'place', id)
}

function labelOf(records: Records, kind: 'place' | 'source' | 'gate', id: string): string {
  return byId(records, kind, id)?.name || id
}
