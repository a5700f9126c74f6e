import { unitsPerOne } from '../../plan/basics.ts'
import type { Game, GameProfile, GameSource, GameYield } from '../../rules/game.ts'
import { rises } from '../../rules/relaxed.ts'
import type { Portion } from './portion.ts'

/**
 * Whether a portion is one tally that only ever grows by what sources give, unconditionally: then what a player has of it at
 * any moment is a sum of independent units, and a level is read off it.
 */
export function isSum(game: Game, profile: GameProfile, { tallies, characters, sources, gates, counted, targets }: Portion): boolean {
  const [t] = tallies
  if (t === undefined || tallies.size > 1 || gates.size > 0 || counted.size > 0) return false
  const tally = game.tallies[t]!
  const most = [...sources].reduce((sum, s) => sum + game.sources[s]!.count * ofTally(game.sources[s]!, t).reduce((all, y) => all + y.max, 0), 0)
  return (
    (tally.resets === 'never' || (tally.resets === 'retry' && profile.retries === 0)) &&
    tally.start + most <= tally.max &&
    most <= mostSteps * stepOf(game, sources, t) &&
    [...sources].every((s) => isUnconditional(game.sources[s]!, t)) &&
    [...characters].every((c) => readsOff(game, c, t)) &&
    [...targets.gates].every((g) => rises(game.gates[g]!.requires) && !game.gates[g]!.error)
  )
}

/** Sums that are longer are left to be drawn. */
const mostSteps = 2_000_000

/** The units that all gains of a tally by some sources are multiples of. */
export function stepOf(game: Game, sources: Iterable<number>, t: number): number {
  let step = 0
  for (const s of sources) for (const { min, max } of ofTally(game.sources[s]!, t)) {
    step = commonDivisor(commonDivisor(step, min), max === min ? 0 : unitsPerOne)
    // No step is finer.
    if (step === 1) break
  }
  return step || unitsPerOne
}

function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b)
}

/** What a unit of a source yields of a tally. */
export function ofTally({ yields }: GameSource, t: number): GameYield[] {
  return yields.filter((y) => y.tally === t)
}

function isUnconditional(source: GameSource, t: number): boolean {
  return !source.error && source.requires.node === null && source.takes.length === 0 && ofTally(source, t).every((y) => y.min >= 0)
}

/** Whether a character's level depends on the tally's amount alone: all XP is gained by it, carried, and climbed at once. */
function readsOff(game: Game, c: number, t: number): boolean {
  const { curve, joins, tally, rewards } = game.characters[c]!
  const capped = [...game.sources, ...game.gates].some(({ caps }) => caps.some((cap) => cap.character === null || cap.character === c))
  return tally === t && joins === null && !capped && curve !== null && curve.remainder === 'carry' && curve.levelsPerGain === 'many' && rewards.every((reward) => reward.yields.every((y) => y.tally !== t))
}
