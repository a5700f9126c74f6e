import type { Game } from '../../rules/game.ts'
import type { ReachResult, Wave } from '../result.ts'
import { isExact, Reach, type Waves } from './reach.ts'
import { ClosedReasons } from './reasons.ts'

/** What can be opened at all, in any order, without and with repeats, and why the rest stays closed (docs/checks.md 2); with what is held in the end. */
export function checkReach(game: Game): { result: ReachResult; held: Reach } {
  const once = new Reach(game, { repeats: false }).run()
  const repeated = new Reach(game, { repeats: true }).run()
  const table = (kind: keyof Waves) => Object.fromEntries(game[kind].map((item, i) => [item.id, waveOf(once.waves[kind][i]!, repeated.waves[kind][i]!)]))
  const reasons = new ClosedReasons(game, repeated)
  const result: ReachResult = {
    exact: isExact(game),
    places: table('places'),
    sources: table('sources'),
    gates: table('gates'),
    closed: game.gates.flatMap((gate, g) => (repeated.has('gates', g) ? [] : [{ gate: gate.id, why: reasons.why(g), ring: reasons.ring(g) }])),
  }
  return { result, held: repeated }
}

function waveOf(wave: number, waveWithRepeats: number): Wave {
  const orNull = (w: number) => (w < 0 ? null : w)
  return { wave: orNull(wave), waveWithRepeats: orNull(waveWithRepeats) }
}
