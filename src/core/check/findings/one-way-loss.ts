import { labelOf } from '../../plan/label-of.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { finding, type FindingRule } from './finding-rule.ts'

function reachedFrom(game: Game, start: number): Set<number> {
  const seen = new Set(start < 0 ? [] : [start])
  for (const place of seen) for (const { to } of game.places[place]!.ways) seen.add(to)
  return seen
}

/** one-way-loss: a one-way passage past which main sources or gates cannot be got back to. */
export const oneWayLoss: FindingRule = ({ game }) =>
  game.passages.filter((passage) => !passage.twoWay).flatMap((passage) => {
    const ahead = reachedFrom(game, passage.to)
    if (ahead.has(passage.from)) return []
    const behind = [...reachedFrom(game, game.start)].filter((place) => !ahead.has(place))
    const lost = behind.flatMap((place) => game.places[place]!.contents).map(({ source, gate }): GameItem => (source !== null ? game.sources[source]! : game.gates[gate!]!)).filter((item) => item.main)
    if (!lost.length) return []
    const from = labelOf(game.places[passage.from]!)
    return [finding('one-way-loss', 'risk', 'passage', passage.id, `Nobody comes back to ${from} by ${passage.id}: ${lost.length} main sources and gates are lost behind it, such as ${labelOf(lost.at(-1)!)}.`)]
  })
