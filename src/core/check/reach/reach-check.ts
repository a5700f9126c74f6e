import type { Game } from '../../rules/game.ts'
import { finished } from '../finished.ts'
import type { ReachResult, Wave } from '../result.ts'
import { isExact, Reach, type Waves } from './reach.ts'
import { ClosedReasons } from './reasons.ts'

/** What can be opened at all, in any order, without and with repeats, and why the rest stays closed (docs/checks.md 2); with what is held in the end. */
export function checkReach(game: Game): ReachCheck {
  return finished(reachInSteps(game))
}

export interface ReachCheck {
  result: ReachResult
  held: Reach
}

/** The same in steps, so that a worker can look up between them. */
export function* reachInSteps(game: Game): Generator<number, ReachCheck> {
  const once = yield* new Reach(game, { repeats: false }).steps()
  const repeated = yield* new Reach(game, { repeats: true }).steps()
  const table = (kind: keyof Waves) => {
    const waves: Record<string, Wave> = {}
    game[kind].forEach(({ id }, i) => (waves[id] = waveOf(once.waves[kind][i]!, repeated.waves[kind][i]!)))
    return waves
  }
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
