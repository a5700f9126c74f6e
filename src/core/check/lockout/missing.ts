import { fromUnits } from '../../rules/compile.ts'
import { askedOf, gatesOnWay, isOpen } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { numberText } from '../../view/numbers.ts'
import { comparisonHolds, sidesOf } from '../route/comparison.ts'

/** What the gates ask for on the ways out of where a stuck player stands, against what is held. */
export function missingText(game: Game, state: State): string {
  const ways = game.places[state.place]?.ways ?? []
  const closed = new Set(ways.flatMap(({ passage, to }) => gatesOnWay(game, passage, to)).filter((g) => !isOpen(game, state, g)))
  const here = game.places[state.place]?.contents.flatMap(({ gate }) => (gate !== null && game.gates[gate]!.main && !isOpen(game, state, gate) ? [gate] : [])) ?? []
  const parts = [...new Set([...closed, ...here])].slice(0, 4).map((g) => `${game.gates[g]!.name || game.gates[g]!.id} needs ${needs(game, state, g)}`)
  if (parts.length) return parts.join('; ')
  return ways.length ? 'every way on leads nowhere that helps' : 'there is no way on from here'
}

function needs(game: Game, state: State, g: number): string {
  const gate = game.gates[g]!
  if (gate.error) return gate.error.message
  const unmet = gate.requires.comparisons.filter((c) => !comparisonHolds(c, state)).map((c) => {
    const { left, right } = sidesOf(c, state)
    return `${c.text} (has ${numberText(c.constant === 'left' ? right : left)})`
  })
  const costs = gate.costs.filter(({ tally }) => state.tallies[tally]! - askedOf(gate.costs, tally) < game.tallies[tally]!.min)
  const unpaid = costs.map(({ tally, amount }) => `${numberText(fromUnits(amount))} ${game.tallies[tally]!.id} (has ${numberText(fromUnits(state.tallies[tally]!))})`)
  return [...unmet, ...unpaid].join(' and ') || gate.requires.text || 'to be opened from another side'
}
