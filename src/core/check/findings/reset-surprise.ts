import { labelOf } from '../../plan/label-of.ts'
import type { Game, GameTally } from '../../rules/game.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** reset-surprise: what a gate needs is earned where it is lost again before the gate, or is not kept on quitting. */
export const resetSurprise: FindingRule = ({ game }) => {
  const placesOf = givingPlaces(game)
  return game.gates.flatMap((gate) => {
    const read = [...gate.requires.reads.tallies, ...gate.requires.reads.characters.map((c) => game.characters[c]?.tally ?? -1)]
    return [...new Set(read)].filter((t) => t >= 0).flatMap((t): Finding[] => {
      const tally = game.tallies[t]!
      const how = howLost(tally, placesOf[t]!, gate.place)
      return how ? [finding('reset-surprise', 'risk', 'gate', gate.id, `${labelOf(gate)} needs ${tally.id}, which ${how}.`)] : []
    })
  })
}

/** By tally the places in which it is earned; null among them: wherever one is. */
function givingPlaces(game: Game): Set<number | null>[] {
  const places = game.tallies.map(() => new Set<number | null>())
  const note = (yields: readonly { tally: number; max: number }[], place: number | null) => {
    for (const { tally, max } of yields) if (max > 0) places[tally]!.add(place)
  }
  for (const { yields, place } of [...game.sources, ...game.gates]) note(yields, place)
  for (const { rewards } of game.characters) for (const { yields } of rewards) note(yields, null)
  return places
}

/** How a tally that is earned in some places is lost before a gate in one; null: it is not. */
function howLost({ resets, saved }: GameTally, places: ReadonlySet<number | null>, here: number | null): string | null {
  if (places.size === 0) return null
  if (resets === 'place' && !places.has(here) && !places.has(null)) return 'is earned in other places and lost on entering this one'
  if (resets === 'retry') return 'a player who fails and tries again loses'
  return saved ? null : 'is not kept when the player quits'
}
