import type { Game, GameRoute } from '../../rules/game.ts'
import { relaxedGame } from '../../rules/relaxed.ts'
import { floorAt } from '../../rules/gain.ts'
import { cloneState, type State } from '../../rules/state.ts'
import { noted, type Branch } from './branch.ts'
import { furtherUnits, furtherUnitsOpen, type Further } from './further.ts'
import { momentAt } from './itinerary.ts'
import type { LowSide } from './comparison-record.ts'
import type { Milestone } from './milestone.ts'
import type { Cause, DueMoment, Watcher } from './watcher.ts'

/** What further units are reckoned from: what the middle walk has, but for what little is had of the amounts given here. */
export interface FurtherFrom {
  low: readonly LowSide[]
}

/** The state with the gate closed, and no more than the given amounts: a level is just entered. */
function lowered(game: Game, state: State, g: number, low: readonly LowSide[]): State {
  const copy = cloneState(state)
  copy.opened[g] = 0
  for (const side of low) {
    if ('tally' in side) copy.tallies[side.tally] = Math.min(copy.tallies[side.tally]!, side.amount)
    else if (side.level < copy.level[side.character]!) {
      const { curve } = game.characters[side.character]!
      copy.level[side.character] = side.level
      copy.xp[side.character] = curve ? floorAt(curve, side.level) : 0
    }
  }
  return copy
}

/** What of it bears on the walk after an edit: that one is the same up to some stop. */
export type MiddleNotes = Pick<MiddleRecord, 'further' | 'openings' | 'minutes'>

/** What the middle walk shows: what further units would do, and the minutes of each stop. */
export class MiddleRecord implements Watcher {
  /** By gate that is not open when it is due: what further units would do. */
  readonly further = new Map<number, Further>()
  /** By gate the moment at which it opened. */
  readonly openings = new Map<number, number>()
  /** By stop, as the plan has minutes. */
  readonly minutes: number[]
  readonly takesAtOnce = true
  readonly moved: Watcher['moved']
  private readonly tellsDebts: boolean
  private relaxed: Game | null = null

  constructor(
    private readonly game: Game,
    route: GameRoute,
    /** Which gates to look for further units for, and from what. */
    private readonly looksFurther: (g: number) => FurtherFrom | null,
    /** Whether the minutes are kept, and whether it is told which further units are the quickest. */
    { minutes, debts }: { minutes: boolean; debts: boolean } = { minutes: true, debts: true },
  ) {
    this.tellsDebts = debts
    this.moved = minutes ? (cause, stop, units) => this.addMinutes(cause, stop, units) : undefined
    this.minutes = route.stops.map((place) => game.places[place]!.minutes)
  }

  /** Takes over what another showed up to a milestone. Further units are those of places visited: what stands at others bears on none of them. */
  goOnFrom({ further, openings, minutes }: MiddleNotes, { stop, branch: { notes } }: Milestone): void {
    for (const [g, units] of further) if (notes[g]! & noted.due) this.further.set(g, units)
    for (const [g, moment] of openings) if (notes[g]! & noted.opened) this.openings.set(g, moment)
    for (let s = 0; s < stop; s++) this.minutes[s] = minutes[s]!
  }

  private addMinutes(cause: Cause, stop: number, units: number): void {
    if (cause.type === 'source') this.minutes[stop]! += this.game.columns.minutes[cause.index]! * units
    if (cause.type === 'gate') this.minutes[stop]! += this.game.gates[cause.index]!.minutes
  }

  opened(_: Branch, g: number, stop: number, passes: number): void {
    this.openings.set(g, momentAt(stop, passes))
  }

  due(branch: Branch, g: number, success: boolean, moment: DueMoment): void {
    const from = moment === 'unmet' ? null : this.looksFurther(g)
    if (!from) return
    // The middle may lie where no outcome does, and have it open though nobody has: it is looked at as closed.
    const state = from.low.length || success ? lowered(this.game, branch.state, g, from.low) : branch.state
    this.relaxed ??= relaxedGame(this.game)
    this.further.set(g, this.tellsDebts ? furtherUnits(this.game, this.relaxed, state, g) : { opens: furtherUnitsOpen(this.game, this.relaxed, state, g), debt: [] })
  }
}

