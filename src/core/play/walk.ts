import { sidesOf, comparisonHolds } from '../check/route/comparison.ts'
import { walkMiddle } from '../check/route/middle-walk.ts'
import { labelOf } from '../plan/label-of.ts'
import { fromUnits, toUnits } from '../rules/compile.ts'
import { askedOf, canOpen, canTake, closedOnWay, enter, open, quit, retry, standsAt, take } from '../rules/engine.ts'
import type { GameEvent } from '../rules/events.ts'
import { giveAmount, middleRoll, plainPlay, playOf, type Play } from '../rules/gain.ts'
import type { Game, GameProfile, GameRoute } from '../rules/game.ts'
import { indexOf } from '../rules/ids.ts'
import { cloneState, newState, type State } from '../rules/state.ts'
import { numberText } from '../view/numbers.ts'
import { fillText } from './fill-text.ts'

/** What a player, or who walks the plan by hand, can do. Ids name things, so that a walk outlives changes of the plan. */
export type WalkMove =
  | { go: string }
  | { take: string; units: number }
  | { open: string }
  /** A gift from outside the plan. */
  | { give: string; amount: number }
  | { fail: true }
  | { quit: true }

/** Where a walk begins: the plan's start, or a stop of a route as a kind of player would come to it. */
export type WalkStart = { at: 'start' } | { at: 'stop'; route: string; profile: string; stop: number }

export interface WalkStep {
  move: WalkMove
  /** After the move. */
  state: State
  events: GameEvent[]
}

/** A walk as it goes in a plan as it is now. */
export interface Replay {
  first: State
  steps: WalkStep[]
  /** The first move that cannot be made any more, and why; null: all can. */
  broken: { index: number; says: string } | null
}

/** Plays moves one after another on the engine, as far as they can be made (docs/model.md). Random yields fall in their middle. */
export function replay(game: Game, start: WalkStart, moves: readonly WalkMove[]): Replay {
  const first = startState(game, start)
  const steps: WalkStep[] = []
  let state = first
  for (const [index, move] of moves.entries()) {
    const next = cloneState(state)
    const says = impossible(game, next, move)
    if (says !== null) return { first, steps, broken: { index, says } }
    const events: GameEvent[] = []
    make(game, next, move, playOf(middleRoll, events))
    steps.push({ move, state: next, events })
    state = next
  }
  return { first, steps, broken: null }
}

function startState(game: Game, start: WalkStart): State {
  if (start.at === 'stop') {
    const route = game.routes.find(({ key }) => key === start.route)
    const profile = game.profiles.find(({ key }) => key === start.profile)
    const arrived = route && profile && arrivalAt(game, route, profile, start.stop)
    if (arrived) return arrived
  }
  const state = newState(game)
  if (game.start >= 0) enter(game, state, game.start, plainPlay)
  return state
}

/** What a kind of player has on entering a stop, in the middle walk. */
export function arrivalAt(game: Game, route: GameRoute, profile: GameProfile, stop: number): State | null {
  let arrived: State | null = null
  walkMiddle(game, route, profile, [{ entered: (state, at) => void (at === stop && (arrived = cloneState(state))) }])
  return arrived
}

/** Why a move cannot be made; null where it can. */
export function impossible(game: Game, state: State, move: WalkMove): string | null {
  if ('go' in move) {
    const p = indexOf(game, 'passages', move.go)
    const way = game.places[state.place]?.ways.find(({ passage }) => passage === p)
    if (!way) return `no passage ${move.go} leads on from here`
    const closed = closedOnWay(game, state, p, way.to)
    return closed.length ? `${closed.map((g) => labelOf(game.gates[g]!)).join(' and ')} bars the way` : null
  }
  if ('take' in move) {
    const s = indexOf(game, 'sources', move.take)
    const source = game.sources[s]
    if (!source || source.place !== state.place) return `${move.take} is not here`
    return canTake(game, state, s) ? null : `${labelOf(source)} cannot be taken: ${state.taken[s]! >= source.count && !source.respawns ? 'nothing is left of it' : source.requires.text || 'what it uses up is not there'}`
  }
  if ('open' in move) {
    const g = indexOf(game, 'gates', move.open)
    const gate = game.gates[g]
    if (!gate || !standsAt(game, gate, state.place)) return `${move.open} is not here`
    return canOpen(game, state, g) ? null : (state.opened[g] ? `${labelOf(gate)} is open already` : lockedText(game, state, g))
  }
  if ('give' in move) return game.tallies.some(({ id }) => id === move.give) ? null : `there is no tally ${move.give}`
  return null
}

function make(game: Game, state: State, move: WalkMove, play: Play): void {
  if ('go' in move) {
    const p = indexOf(game, 'passages', move.go)
    enter(game, state, game.places[state.place]!.ways.find(({ passage }) => passage === p)!.to, play)
  } else if ('take' in move) {
    const s = indexOf(game, 'sources', move.take)
    for (let i = 0; i < move.units && canTake(game, state, s); i++) take(game, state, s, play)
  } else if ('open' in move) open(game, state, indexOf(game, 'gates', move.open), play)
  else if ('give' in move) giveAmount(game, state, indexOf(game, 'tallies', move.give), toUnits(move.amount), play)
  else if ('fail' in move) retry(game, state, play)
  else quit(game, state, play)
}

/** What keeps a gate closed, in numbers: each comparison that does not hold, and each cost that cannot be paid. */
export function missingFor(game: Game, state: State, g: number): { text: string; need: number; have: number }[] {
  const gate = game.gates[g]!
  const unmet = gate.requires.comparisons.filter((comparison) => !comparisonHolds(comparison, state)).map((comparison) => {
    const { left, right } = sidesOf(comparison, state)
    const [have, need] = comparison.constant === 'left' ? [right, left] : [left, right]
    return { text: comparison.text, need, have }
  })
  const unpaid = gate.costs.filter(({ tally }) => state.tallies[tally]! - askedOf(gate.costs, tally) < game.tallies[tally]!.min)
  return [...unmet, ...unpaid.map(({ tally, amount }) => ({ text: game.tallies[tally]!.id, need: fromUnits(amount), have: fromUnits(state.tallies[tally]!) }))]
}

/** The same in words: `level >= 9: 8 of 9; stamps: 0 of 2`; '' where nothing is missing. */
export function missingWords(game: Game, state: State, g: number): string {
  return missingFor(game, state, g).map(({ text, need, have }) => `${text}: ${numberText(have)} of ${numberText(need)}`).join('; ')
}

/** What the player reads at a gate that does not open, its numbers filled in from its first unmet comparison (docs/model.md 5). */
export function lockedText(game: Game, state: State, g: number): string {
  const gate = game.gates[g]!
  if (gate.error) return gate.error.message
  return fillText(gate.lockedText, missingFor(game, state, g)[0]) || `${labelOf(gate)} does not open: ${gate.requires.text || 'its cost cannot be paid'}`
}
