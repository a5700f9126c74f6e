import { fromUnits } from '../../rules/compile.ts'
import { canOpen, canTake, enter, gatesOnWay, isOpen, open, standsAt, take } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import { cloneState, newState, type State } from '../../rules/state.ts'
import { everyOutcome } from '../chance.ts'
import type { Move } from '../result.ts'
import { safetyOf, type Safety } from './safety.ts'
import { scopeOf, type Scope } from './scope.ts'

/** A move that can be made, and what it leads to. */
export interface Step {
  move: Move
  /** A unit past its source's count. */
  repeat: boolean
  state: State
}

/** The states of free play and the moves between them, with what cannot matter left out. */
export class Space {
  readonly scope: Scope
  private readonly safety: Safety
  private readonly mostXp: number[]
  private readonly random: boolean

  constructor(private readonly game: Game) {
    this.scope = scopeOf(game)
    this.safety = safetyOf(game, this.scope)
    this.mostXp = game.characters.map(({ curve }) => (curve ? (curve.counts === 'total' ? curve.values.at(-1)! : curve.values.reduce((sum, v) => sum + v, 0)) + 1 : 0))
    this.random = game.characters.some((c) => c.rewards.some((r) => r.yields.some(isRanged)))
  }

  start(): State {
    const state = newState(this.game)
    enter(this.game, state, this.game.start, plainPlay)
    return this.settled(state)
  }

  isWon(state: State): boolean {
    const { places, gates } = this.scope.goal
    return places.every((p) => state.visited[p]) && gates.every((g) => state.opened[g])
  }

  /**
   * Every move that can be made, in every way that chance can fall. Where the player can always return, where they stand is
   * left out: moves of all places that can be gone to count, and one that can never spoil anything is made before all others.
   */
  steps(state: State): Step[] {
    return this.safety.returns ? this.stepsEverywhere(state) : this.stepsHere(state)
  }

  /** Whether steps are made without the going in between. */
  get leavesOutGoing(): boolean {
    return this.safety.returns
  }

  private stepsEverywhere(state: State): Step[] {
    const steps: Step[] = []
    for (const p of this.reached(state)) {
      for (const { source, gate } of this.game.places[p]!.contents) {
        const before = steps.length
        if (source !== null && this.scope.sources[source]) this.addTake(state, source, steps)
        if (gate !== null && this.scope.gates[gate]) this.addOpen(state, gate, steps)
        const isSafe = source !== null ? this.safety.sources[source]! : this.safety.gates[gate!]!
        if (isSafe && steps.length === before + 1 && !steps[before]!.repeat) return [steps[before]!]
      }
    }
    for (const g of this.game.anywhere) {
      const before = steps.length
      if (this.scope.gates[g] && this.reached(state).some((p) => standsAt(this.game, this.game.gates[g]!, p))) this.addOpen(state, g, steps)
      if (this.safety.gates[g] && steps.length === before + 1) return [steps[before]!]
    }
    return steps
  }

  /** Places that can be gone to through what is open. */
  private reached(state: State): number[] {
    const { game } = this
    const found = [game.start]
    const seen = new Set(found)
    for (const p of found) {
      for (const { passage, to } of game.places[p]!.ways) {
        if (seen.has(to) || !gatesOnWay(game, passage, to).every((g) => isOpen(game, state, g))) continue
        seen.add(to)
        found.push(to)
      }
    }
    return found
  }

  /** Moves of the place where the player stands, and the ways on. */
  stepsHere(state: State): Step[] {
    const { game, scope } = this
    const steps: Step[] = []
    const place = game.places[state.place]!
    for (const { source, gate } of place.contents) {
      if (source !== null && scope.sources[source]) this.addTake(state, source, steps)
      if (gate !== null && scope.gates[gate]) this.addOpen(state, gate, steps)
    }
    for (const g of game.anywhere) if (scope.gates[g] && standsAt(game, game.gates[g]!, state.place)) this.addOpen(state, g, steps)
    for (const { passage, to } of place.ways) {
      if (!gatesOnWay(game, passage, to).every((g) => isOpen(game, state, g))) continue
      const next = cloneState(state)
      enter(game, next, to, plainPlay)
      steps.push({ move: { go: game.passages[passage]!.id }, repeat: false, state: this.settled(next) })
    }
    return steps
  }

  private addTake(state: State, s: number, steps: Step[]): void {
    const source = this.game.sources[s]!
    if (!canTake(this.game, state, s)) return
    const repeat = state.taken[s]! >= source.count
    const outcomes = this.outcomes(state, source.yields, (next, roll) => take(this.game, next, s, { ...plainPlay, roll }))
    for (const { next, rolled } of outcomes) steps.push({ move: { take: source.id, ...outcomeOf(this.game, rolled) }, repeat, state: this.settled(next) })
  }

  private addOpen(state: State, g: number, steps: Step[]): void {
    if (!canOpen(this.game, state, g)) return
    const gate = this.game.gates[g]!
    for (const { next } of this.outcomes(state, gate.yields, (to, roll) => open(this.game, to, g, { ...plainPlay, roll }))) {
      steps.push({ move: { open: gate.id }, repeat: false, state: this.settled(next) })
    }
  }

  private outcomes(state: State, yields: readonly GameYield[], move: (next: State, roll: (y: GameYield) => number) => void) {
    if (!this.random && !yields.some(isRanged)) {
      const next = cloneState(state)
      move(next, (y) => y.min)
      return [{ next, rolled: [] as [GameYield, number][] }]
    }
    return everyOutcome.rolls((roll) => {
      const next = cloneState(state)
      const rolled: [GameYield, number][] = []
      move(next, (y) => {
        const amount = roll(y)
        rolled.push([y, amount])
        return amount
      })
      return { next, rolled }
    }).map(([outcome]) => outcome)
  }

  /** Without what cannot matter, and with amounts above everything that is asked for made alike. */
  private settled(state: State): State {
    const { scope, game } = this
    if (this.safety.returns) for (const p of this.reached(state)) state.visited[p] = 1
    game.tallies.forEach((tally, t) => {
      if (!scope.tallies[t]) state.tallies[t] = tally.start
      else state.tallies[t] = Math.min(state.tallies[t]!, scope.enough[t]!)
    })
    game.characters.forEach((_, c) => {
      if (!scope.characters[c]) {
        state.level[c] = 0
        state.xp[c] = 0
      } else state.xp[c] = Math.min(state.xp[c]!, this.mostXp[c]!)
    })
    for (let s = 0; s < state.taken.length; s++) state.taken[s] = scope.sources[s] ? Math.min(state.taken[s]!, scope.enoughUnits[s]!) : 0
    for (let p = 0; p < state.visited.length; p++) if (!scope.places[p]) state.visited[p] = 0
    return state
  }

  /** The same for the same state, and for no other. */
  key({ place, tallies, level, xp, cap, present, opened, visited, taken }: State): string {
    return `${place};${tallies.join()};${level.join()};${xp.join()};${cap.join()};${present.join('')}${opened.join('')}${visited.join('')};${taken.join()}`
  }
}

function isRanged(y: GameYield): boolean {
  return y.min !== y.max
}

function outcomeOf(game: Game, rolled: readonly [GameYield, number][]): { outcome?: Record<string, number> } {
  if (rolled.length === 0) return {}
  return { outcome: Object.fromEntries(rolled.map(([y, amount]) => [game.tallies[y.tally]!.id, fromUnits(amount)])) }
}
