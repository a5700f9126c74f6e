import { LanguageError } from '../language/language-error.ts'
import type { Game, GameCost, GameGate, GameItem, GameTally, GameYield } from './game.ts'
import { change, giveAll, giveAmount, setCaps, type Play } from './gain.ts'
import { toStartLevel, type State } from './state.ts'

/**
 * Whether an item's requirement holds now, as it stands or at its kindest. One that is in error, or fails while it is played,
 * does not.
 */
export function holds(item: GameItem, state: State, how: 'holds' | 'kindest' = 'holds'): boolean {
  if (item.error) return false
  try {
    return item.requires[how](state)
  } catch (error) {
    if (error instanceof LanguageError) return false
    throw error
  }
}

/** Whether all costs together leave every tally at or above its min (docs/model.md 4). */
export function canPay(game: Game, state: State, costs: readonly GameCost[]): boolean {
  return costs.length === 0 || costs.every(({ tally }) => {
    const min = game.tallies[tally]!.min
    return min === -Infinity || state.tallies[tally]! - askedOf(costs, tally) >= min
  })
}

/** All that is asked of a tally at once. */
export function askedOf(costs: readonly GameCost[], tally: number): number {
  return costs.reduce((sum, cost) => (cost.tally === tally ? sum + cost.amount : sum), 0)
}

/** Whether the next unit of a source can be taken where the player is; `repeat` asks of units past its count. */
export function canTake(game: Game, state: State, s: number): boolean {
  const source = game.sources[s]!
  const left = source.respawns || state.taken[s]! < source.count
  return left && holds(source, state) && canPay(game, state, source.takes)
}

/** Takes one unit: what it takes is paid, then its yields in their order, then its caps (docs/model.md 4). `yields`: those that come of it. */
export function take(game: Game, state: State, s: number, play: Play, yields: readonly GameYield[] = game.sources[s]!.yields): void {
  const source = game.sources[s]!
  pay(game, state, source.takes, play)
  state.taken[s]! += 1
  giveAll(game, state, yields, play)
  setCaps(game, state, source.caps, play)
}

/** Whether a gate can be opened with what the player has, wherever the player is. A live one never is opened. */
export function canOpen(game: Game, state: State, g: number): boolean {
  const gate = game.gates[g]!
  return !gate.live && !state.opened[g] && holds(gate, state) && canPay(game, state, gate.costs)
}

/** Whether a gate is open, or could be opened with what the player has, wherever the player is. */
export function hasWhatItAsks(game: Game, state: State, g: number): boolean {
  return isOpen(game, state, g) || canOpen(game, state, g)
}

/** Takes several units of a source of which they can be taken at once: the same state as one after another. */
export function takeAtOnce(game: Game, state: State, s: number, units: number, play: Play): void {
  const { yieldsFrom, yieldTally, yieldMin, yieldMax } = game.columns
  state.taken[s]! += units
  for (let y = yieldsFrom[s]!; y < yieldsFrom[s + 1]!; y++) {
    const min = yieldMin[y]!
    const max = yieldMax[y]!
    const tally = yieldTally[y]!
    let amount = min * units
    if (min !== max) {
      amount = 0
      for (let i = 0; i < units; i++) amount += play.roll({ tally, min, max })
    }
    giveAmount(game, state, tally, amount, play)
  }
}

/** Opens a gate: costs are paid, yields and caps given, once. */
export function open(game: Game, state: State, g: number, play: Play): void {
  const gate = game.gates[g]!
  pay(game, state, gate.costs, play)
  state.opened[g] = 1
  giveAll(game, state, gate.yields, play)
  setCaps(game, state, gate.caps, play)
}

/** Whether a gate lets pass now: opened for good, or live and its requirement holds. */
export function isOpen(game: Game, state: State, g: number): boolean {
  const gate = game.gates[g]!
  return gate.live ? holds(gate, state) : state.opened[g] === 1
}

/** Whether a gate can be opened from a place: where it stands, or for one of anywhere by what it guards (docs/model.md 5). */
export function standsAt(game: Game, gate: GameGate, place: number): boolean {
  if (gate.place !== null) return gate.place === place
  if (gate.guards === null || !('place' in gate.guards)) return true
  return game.places[gate.guards.place]!.waysIn.includes(place)
}

/** The gates on the way through a passage into a place that are not open now. */
export function closedOnWay(game: Game, state: State, passage: number, to: number): number[] {
  return gatesOnWay(game, passage, to).filter((g) => !isOpen(game, state, g))
}

export function gatesOnWay(game: Game, passage: number | null, to: number): readonly number[] {
  const inPlace = game.places[to]!.guards
  const onPassage = passage === null ? [] : game.passages[passage]!.guards
  if (onPassage.length === 0) return inPlace
  return inPlace.length === 0 ? onPassage : [...onPassage, ...inPlace]
}

/** Enters a place: what resets there goes back to its start, then those who join here join. */
export function enter(game: Game, state: State, place: number, play: Play): void {
  state.place = place
  state.visited[place] = 1
  resetWhere(game, state, (tally) => tally.resets === 'place', play)
  game.characters.forEach((character, c) => {
    if (character.joins !== place || state.present[c]) return
    state.present[c] = 1
    play.events?.push({ type: 'joined', character: c })
  })
}

/** Fails and tries again: what resets on a retry goes back to its start. */
export function retry(game: Game, state: State, play: Play): void {
  resetWhere(game, state, (tally) => tally.resets === 'retry', play)
}

/** Quits and comes back: what is not saved goes back to its start. */
export function quit(game: Game, state: State, play: Play): void {
  resetWhere(game, state, (tally) => !tally.saved, play)
}

function pay(game: Game, state: State, costs: readonly GameCost[], play: Play): void {
  for (const cost of costs) change(game, state, cost.tally, -cost.amount, play)
}

function resetWhere(game: Game, state: State, which: (tally: GameTally) => boolean, play: Play): void {
  game.tallies.forEach((tally, t) => {
    if (!which(tally)) return
    play.events?.push({ type: 'reset', tally: t, from: state.tallies[t]! })
    state.tallies[t] = tally.start
    for (const c of tally.listeners) toStartLevel(game, state, c)
  })
}
