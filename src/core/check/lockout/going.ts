import { leadsTo } from '../../plan/place.ts'
import { canOpen, canTake, closedOnWay, enter, gatesOnWay, holds, isOpen, open, standsAt, take } from '../../rules/engine.ts'
import { plainPlay, playOf } from '../../rules/gain.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import { indexOf } from '../../rules/ids.ts'
import { newState, type State } from '../../rules/state.ts'
import type { Move } from '../result.ts'
import { rollFor, type Fall } from './falls.ts'
import { supplierFor } from './plenty.ts'

/** A move, and how chance fell in it: where several yields are of one tally its outcome does not say that. */
export type PlayedMove = Move & Fall

/** What is done, in whatever place it can be done; a source may be repeated until there is enough of what it gives. */
export type Deed = PlayedMove | { take: string; untilEnough: true }

/** Repeats that are written out at most. */
const mostRepeats = 20_000

/** A new game in its first place. */
function atStart(game: Game): State {
  const state = newState(game)
  enter(game, state, game.start, plainPlay)
  return state
}

/**
 * What is done as a player would do it: with the goings in between that lead to where each is done, and repeats written out.
 * `isEnough`: whether another unit of a source would make no difference. `state`: where it begins, and where it has led to when
 * this returns; absent: a new game. null: something of it cannot be done.
 */
export function withGoing(game: Game, deeds: readonly Deed[], isEnough: (state: State, source: string) => boolean, state = atStart(game)): PlayedMove[] | null {
  const all: PlayedMove[] = []
  const done = (move: PlayedMove) => {
    make(game, state, move)
    all.push(move)
  }
  for (const deed of deeds) {
    for (const { passage } of wayTo(game, state, (place) => isMadeAt(game, deed, place))) done({ go: game.passages[passage]!.id })
    if (!('go' in deed)) for (const move of supplies(game, state, deed)) done(move)
    if (!isPossible(game, state, deed)) return null
    if (!('untilEnough' in deed)) done(deed)
    else for (let i = 0; i < mostRepeats && !isEnough(state, deed.take); i++) done({ take: deed.take })
  }
  return all
}

/** Whether a deed can be done where the player stands. */
function isPossible(game: Game, state: State, deed: Deed): boolean {
  if (!isMadeAt(game, deed, state.place)) return false
  if ('take' in deed) return canTake(game, state, indexOf(game, 'sources', deed.take))
  if ('open' in deed) return canOpen(game, state, indexOf(game, 'gates', deed.open))
  const p = indexOf(game, 'passages', deed.go)
  const { from, to } = game.passages[p]!
  return closedOnWay(game, state, p, state.place === from ? to : from).length === 0
}

/** What is to be repeated first, so that a deed can be done that asks for something which starts anew in each place. */
function* supplies(game: Game, state: State, deed: Exclude<Deed, { go: string }>): Generator<Move> {
  const [list, index] = 'take' in deed ? ([game.sources, indexOf(game, 'sources', deed.take)] as const) : ([game.gates, indexOf(game, 'gates', deed.open)] as const)
  const item = list[index]!
  for (let i = 0; i < mostRepeats && !holds(item, state); i++) {
    const supplier = supplierFor(game, state, item)
    if (supplier === null) return
    yield { take: game.sources[supplier]!.id }
  }
}

/** What a player who makes these moves from the start is left with. */
export function stateAfter(game: Game, moves: readonly PlayedMove[]): State {
  const state = atStart(game)
  for (const move of moves) make(game, state, move)
  return state
}

function isMadeAt(game: Game, move: Deed, place: number): boolean {
  if ('go' in move) return leadsTo(game.passages[indexOf(game, 'passages', move.go)]!, place) !== null
  if ('take' in move) return game.sources[indexOf(game, 'sources', move.take)]!.place === place
  return 'open' in move && standsAt(game, game.gates[indexOf(game, 'gates', move.open)]!, place)
}

/** Makes a move on the engine; what was left to chance falls as the move says. */
export function make(game: Game, state: State, move: PlayedMove): void {
  const fallen = move.rolls?.values()
  const played = (yields: readonly GameYield[], outcome?: Record<string, number>) => {
    const roll = rollFor(game, yields, outcome)
    return playOf((y) => fallen?.next().value ?? roll(y))
  }
  if ('go' in move) {
    const passage = game.passages[indexOf(game, 'passages', move.go)]!
    enter(game, state, passage.from === state.place ? passage.to : passage.from, plainPlay)
  } else if ('open' in move) {
    const g = indexOf(game, 'gates', move.open)
    open(game, state, g, played(game.gates[g]!.yields))
  } else {
    const s = indexOf(game, 'sources', move.take)
    take(game, state, s, played(game.sources[s]!.yields, move.outcome))
  }
}

function wayTo(game: Game, state: State, isThere: (place: number) => boolean): { passage: number; to: number }[] {
  const cameBy = new Map<number, { from: number; passage: number } | null>([[state.place, null]])
  const queue = [state.place]
  for (const p of queue) {
    if (isThere(p)) return back(p, cameBy)
    for (const { passage, to } of game.places[p]!.ways) {
      if (cameBy.has(to) || !gatesOnWay(game, passage, to).every((g) => isOpen(game, state, g))) continue
      cameBy.set(to, { from: p, passage })
      queue.push(to)
    }
  }
  return []
}

function back(place: number, cameBy: ReadonlyMap<number, { from: number; passage: number } | null>): { passage: number; to: number }[] {
  const way: { passage: number; to: number }[] = []
  let at = place
  for (let by = cameBy.get(at); by; by = cameBy.get(at)) {
    way.unshift({ passage: by.passage, to: at })
    at = by.from
  }
  return way
}
