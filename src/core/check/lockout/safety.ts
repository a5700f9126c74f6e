import type { Game, GameItem, GameYield } from '../../rules/game.ts'
import { rises } from '../../rules/relaxed.ts'
import type { Scope } from './scope.ts'

/** Which moves can never spoil anything, whenever they are made: they commute with all others (docs/checks.md 3). */
export interface Safety {
  /** Every place that was entered can be entered again, whatever is done: where the player stands does not matter. */
  returns: boolean
  sources: boolean[]
  gates: boolean[]
}

export function safetyOf(game: Game, scope: Scope): Safety {
  const touchy = touchyReads(game, scope)
  const spent = spentTallies(game, scope)
  const capped = game.characters.map((character, c) => character.cap !== null || inScope(game, scope).some((item) => item.caps.some((cap) => cap.character === null || cap.character === c)))
  const isGoodGain = (t: number): boolean => {
    const tally = game.tallies[t]!
    if (touchy.tallies.has(t) || tally.resets === 'place' || (tally.max !== Infinity && spent.has(t))) return false
    return tally.listeners.every((c) => {
      const { curve, joins } = game.characters[c]!
      if (!scope.characters[c]) return true
      return joins === null && !touchy.characters.has(c) && !capped[c] && curve?.remainder !== 'clear' && curve?.levelsPerGain !== 'one'
    })
  }
  const isGood = (y: GameYield): boolean => !scope.tallies[y.tally] || (y.min === y.max && y.min >= 0 && isGoodGain(y.tally))
  const rewardsAreGood = game.characters.every((character) => character.rewards.every((reward) => reward.yields.every((y) => isGood(y))))
  const isSafe = (item: GameItem, costs: readonly unknown[]) =>
    // What can be done now but not any more later is a chance that play can miss.
    isLasting(game, item, spent) && costs.length === 0 && item.caps.length === 0 && item.yields.every((y) => isGood(y) && (game.tallies[y.tally]!.kind !== 'experience' || rewardsAreGood))
  return {
    returns: canReturn(game, scope, touchy, spent),
    sources: game.sources.map((source, s) => isSafe(source, source.takes) && !touchy.sources.has(s)),
    gates: game.gates.map((gate, g) => isSafe(gate, gate.costs) && !touchy.gates.has(g)),
  }
}

type Reads = Record<'tallies' | 'characters' | 'gates' | 'places' | 'sources', Set<number>>

/** Everything that is read by a requirement which more of it could make false. */
function touchyReads(game: Game, scope: Scope): Reads {
  const touchy: Reads = { tallies: new Set(), characters: new Set(), gates: new Set(), places: new Set(), sources: new Set() }
  for (const { requires } of inScope(game, scope)) {
    if (rises(requires)) continue
    for (const kind of Object.keys(touchy) as (keyof Reads)[]) for (const i of requires.reads[kind]) touchy[kind].add(i)
    // Who levels up raises the level that is read, by the tally that is gained.
    for (const c of requires.reads.characters) if (game.characters[c]) touchy.tallies.add(game.characters[c].tally)
  }
  return touchy
}

function inScope(game: Game, scope: Scope): GameItem[] {
  return [...game.sources.filter((_, s) => scope.sources[s]), ...game.gates.filter((_, g) => scope.gates[g])]
}

/** Tallies that something uses up or takes away. */
function spentTallies(game: Game, scope: Scope): Set<number> {
  const costs = [...game.sources.filter((_, s) => scope.sources[s]).flatMap((s) => s.takes), ...game.gates.filter((_, g) => scope.gates[g]).flatMap((g) => g.costs)]
  const penalties = inScope(game, scope).flatMap((item) => item.yields.filter((y) => y.min < 0))
  return new Set([...costs, ...penalties].map(({ tally }) => tally))
}

/** Whether a requirement that holds once holds for good. */
function isLasting(game: Game, { requires }: GameItem, spent: ReadonlySet<number>): boolean {
  return rises(requires) && requires.reads.tallies.every((t) => !spent.has(t)) && requires.reads.gates.every((g) => !game.gates[g]!.live)
}

function canReturn(game: Game, scope: Scope, touchy: Reads, spent: ReadonlySet<number>): boolean {
  return (
    game.passages.every((passage) => passage.twoWay) &&
    game.tallies.every((tally, t) => tally.resets !== 'place' || !scope.tallies[t]) &&
    game.characters.every((character, c) => character.joins === null || !scope.characters[c]) &&
    touchy.places.size === 0 &&
    game.gates.every((gate) => !gate.live || isLasting(game, gate, spent)) &&
    game.places.every((place) => place.guards.length === 0 || place.waysIn.length > 0)
  )
}
