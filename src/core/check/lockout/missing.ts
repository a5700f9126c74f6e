import { labelOf } from '../../plan/label-of.ts'
import { fromUnits } from '../../rules/compile.ts'
import { askedOf, gatesOnWay, isOpen } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { numberText } from '../../view/numbers.ts'
import { comparisonHolds, sidesOf } from '../route/comparison.ts'
import { withTheRest } from './the-rest.ts'

/**
 * What is missing where a player is stuck, or can only grind: what the gates on the ways out and the main gates around ask for, against
 * what is held once everything that costs nothing has been fetched.
 */
export function missingText(game: Game, from: State): string {
  const { state, places } = withTheRest(game, from)
  const isClosed = (g: number) => !isOpen(game, state, g)
  const barred = places.flatMap((p) => game.places[p]!.ways.flatMap(({ passage, to }) => (places.includes(to) ? [] : gatesOnWay(game, passage, to).filter(isClosed))))
  const here = places.flatMap((p) => game.places[p]!.contents.flatMap(({ gate }) => (gate !== null && game.gates[gate]!.main && isClosed(gate) ? [gate] : [])))
  // A bar on the way on is what matters; main gates that bar nothing are told where no way is barred.
  const parts = [...new Set(barred.length ? barred : here)].slice(0, 4).map((g) => `${labelOf(game.gates[g]!)} ${asked(game, state, g)}`)
  if (parts.length) return parts.join('; ')
  return places.some((p) => game.places[p]!.ways.length > 0) ? 'every way on leads nowhere that helps' : 'there is no way on from here'
}

function asked(game: Game, state: State, g: number): string {
  const { error } = game.gates[g]!
  return error ? `is in error: ${error.message}` : `needs ${needs(game, state, g)}`
}

function needs(game: Game, state: State, g: number): string {
  const gate = game.gates[g]!
  const unmet = gate.requires.comparisons.filter((c) => !comparisonHolds(c, state)).map((c) => {
    const { left, right } = sidesOf(c, state)
    return `${c.text} (has ${numberText(c.constant === 'left' ? right : left)})`
  })
  const costs = gate.costs.filter(({ tally }) => state.tallies[tally]! - askedOf(gate.costs, tally) < game.tallies[tally]!.min)
  const unpaid = costs.map(({ tally, amount }) => `${numberText(fromUnits(amount))} ${game.tallies[tally]!.id} (has ${numberText(fromUnits(state.tallies[tally]!))})`)
  return [...unmet, ...unpaid].join(' and ') || gate.requires.text || 'to be opened from another side'
}
