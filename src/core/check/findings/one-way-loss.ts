import { labelOf } from '../../plan/label-of.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** Places that can be come to from one, in the order in which they are, and a mark at each. */
function reachedFrom(game: Game, start: number): { places: number[]; marks: Uint8Array } {
  const marks = new Uint8Array(game.places.length)
  const places: number[] = []
  const come = (place: number) => {
    if (marks[place] === 1) return
    marks[place] = 1
    places.push(place)
  }
  if (start >= 0) come(start)
  for (const place of places) for (const { to } of game.places[place]!.ways) come(to)
  return { places, marks }
}

/** one-way-loss: a one-way passage past which main sources or gates cannot be got back to. */
export const oneWayLoss: FindingRule = ({ game }) => {
  const all = reachedFrom(game, game.start).places
  return game.passages.filter((passage) => !passage.twoWay).flatMap((passage) => {
    const ahead = reachedFrom(game, passage.to).marks
    if (ahead[passage.from] === 1) return []
    const behind = all.filter((place) => ahead[place] === 0)
    const lost = behind.flatMap((place) => game.places[place]!.contents).map(({ source, gate }): GameItem => (source !== null ? game.sources[source]! : game.gates[gate!]!)).filter((item) => item.main)
    if (!lost.length) return []
    const from = labelOf(game.places[passage.from]!)
    return [finding('one-way-loss', 'risk', 'passage', passage.id, `Nobody comes back to ${from} by ${passage.id}: ${lost.length} main sources and gates are lost behind it, such as ${labelOf(lost.at(-1)!)}.`)]
  })
}
