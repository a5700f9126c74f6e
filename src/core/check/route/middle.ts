import type { GameEvent } from '../../rules/events.ts'
import type { Game, GameRoute } from '../../rules/game.ts'
import { relaxedGame } from '../../rules/relaxed.ts'
import type { Branch } from './branch.ts'
import { furtherUnits, type Further } from './further.ts'
import { Ledger, type Page } from './ledger.ts'
import type { Cause, DueMoment, Watcher } from './walk-route.ts'

/** What the middle walk shows: the sums behind amounts, what further units would do, and the minutes of each stop. */
export class MiddleRecord implements Watcher {
  readonly ledger: Ledger
  /** By gate: the page of the book at its due moment, or just before it opened. */
  readonly pages: (Page | null)[]
  /** By gate that is not open when it is due: what further units would do. */
  readonly further = new Map<number, Further>()
  /** By stop, as the plan has minutes. */
  readonly minutes: number[]
  private relaxed: Game | null = null

  constructor(
    private readonly game: Game,
    route: GameRoute,
    /** Which gates to look for further units for. */
    private readonly looksFurther: (g: number) => boolean,
  ) {
    this.ledger = new Ledger(game)
    this.pages = game.gates.map(() => null)
    this.minutes = route.stops.map((place) => game.places[place]!.minutes)
  }

  events(events: GameEvent[], cause: Cause, stop: number): void {
    this.ledger.add(events, cause, stop)
  }

  moved(cause: Cause, stop: number): void {
    if (cause.type === 'source') this.minutes[stop]! += this.game.sources[cause.index]!.minutes
    if (cause.type === 'gate') this.minutes[stop]! += this.game.gates[cause.index]!.minutes
  }

  due(branch: Branch, g: number, moment: DueMoment, success: boolean): void {
    this.pages[g] = this.ledger.page()
    if (success || moment === 'unmet' || !this.looksFurther(g)) return
    this.further.set(g, furtherUnits(this.game, (this.relaxed ??= relaxedGame(this.game)), branch.state, g))
  }
}

