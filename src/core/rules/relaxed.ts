import { remembered } from '../plan/remembered.ts'
import { emptyRequirement } from './compile-requirement.ts'
import { giveAll, plainPlay, setCaps } from './gain.ts'
import { changedGame, type Game, type GameGate, type GameItem, type GameRequirement, type GameSource } from './game.ts'
import type { State } from './state.ts'

/** As much as any plan can ask for: what a source that respawns gives, given without end. */
export const withoutEnd = 1e15

/** Whether more of everything can never make a requirement false. */
export function rises({ direction }: GameRequirement): boolean {
  return direction === 'rising' || direction === 'constant'
}

/** The same of an item with all live gates that it names, each of which holds or does not as it is asked. */
export function risesThroughout(game: Game, { requires }: GameItem): boolean {
  // Those that are in error never hold; among them are all that name each other in a ring.
  const mayCease = (gate: GameGate) => gate.live && !gate.error && !risesThroughout(game, gate)
  return rises(requires) && !requires.reads.gates.some((g) => mayCease(game.gates[g]!))
}

/**
 * The same game at its kindest: nothing is used up or taken away, a yield gives its most, XP is carried, kept at a limit and
 * climbs as far as it can, and whatever in a requirement is not rising holds. What cannot be done here cannot be done at all.
 */
export function relaxedGame(game: Game): Game {
  const characters = game.characters.map((character) => ({
    ...character,
    curve: character.curve && { ...character.curve, remainder: 'carry' as const, levelsPerGain: 'many' as const, atTop: 'bank' as const },
  }))
  return changedGame(game, { characters, sources: remembered(kindSources, game.sources, () => game.sources.map((source) => remembered(kindSource, source, () => relaxedSource(source)))) })
}

/** Most sources stand as they stood when a plan is changed. */
const kindSources = new WeakMap<readonly GameSource[], GameSource[]>()
const kindSource = new WeakMap<GameSource, GameSource>()

function relaxedSource(source: GameSource): GameSource {
  return {
    ...source,
    takes: [],
    caps: [],
    yields: source.yields.filter((y) => y.max > 0).map(({ tally, max }) => ({ tally, min: max, max })),
    requires: rises(source.requires) ? source.requires : emptyRequirement,
  }
}

/** Sets every character's cap to the highest that any of these sources gives, where that is higher; who waited at it climbs. */
export function raiseCaps(game: Game, state: State, sources: readonly number[]): void {
  for (const s of sources) {
    for (const cap of game.sources[s]!.caps) {
      game.characters.forEach((_, c) => {
        const isMeant = cap.character === null || cap.character === c
        if (isMeant && cap.level > state.cap[c]!) setCaps(game, state, [{ character: c, level: cap.level }], plainPlay)
      })
    }
  }
}

/** Lets everybody climb as far as their XP goes: any gain would, even one of nothing. */
export function climbAll(game: Game, state: State): void {
  const tallies = new Set(game.characters.map(({ tally }) => tally).filter((t) => t >= 0))
  giveAll(game, state, [...tallies].map((tally) => ({ tally, min: 0, max: 0 })), plainPlay)
}

/** Gives what a source gives when it is repeated without end. */
export function giveWithoutEnd(game: Game, state: State, source: GameSource): void {
  giveAll(game, state, source.yields.map(({ tally }) => ({ tally, min: withoutEnd, max: withoutEnd })), plainPlay)
}
