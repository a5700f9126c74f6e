import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game } from '../../rules/game.ts'
import type { FromEntry, LostEntry } from '../result.ts'
import type { Relevance } from './relevance.ts'
import type { Cause } from './walk-route.ts'

interface Entry {
  /** When it was begun; entries count up. */
  at: number
  stop: number
  cause: Cause
  reset: boolean
  units: number
  total: number
}

interface Loss {
  at: number
  stop: number
  cause: Cause
  why: 'top' | 'cleared'
  amount: number
}

/** A moment in the book; what came later is not part of a sum made up to here. */
export type Page = number

/** The book of a walk: for each tally what gave or took how much, at which stop, in order; and the XP that was lost. */
export class Ledger {
  private readonly byTally: Entry[][]
  private readonly byCharacter: Loss[][]
  private clock = 0
  private lastPage = 0

  constructor(private readonly game: Game) {
    this.byTally = game.tallies.map(() => [])
    this.byCharacter = game.characters.map(() => [])
  }

  /** Enters what one move did. */
  add(events: GameEvent[], cause: Cause, stop: number): void {
    const totals = new Map<number, number>()
    for (const event of events) {
      if (event.type === 'changed') totals.set(event.tally, (totals.get(event.tally) ?? 0) + event.by)
      if (event.type === 'reset') this.enter(event.tally, { stop, cause, reset: true, units: 0, total: this.game.tallies[event.tally]!.start - event.from })
      if (event.type === 'lost') this.byCharacter[event.character]!.push({ at: this.clock++, stop, cause, why: event.why, amount: event.amount })
    }
    for (const [tally, total] of totals) this.enter(tally, { stop, cause, reset: false, units: 1, total })
  }

  private enter(tally: number, entry: Omit<Entry, 'at'>): void {
    if (entry.reset && entry.total === 0) return
    const list = this.byTally[tally]!
    const last = list.at(-1)
    if (last && !entry.reset && last.at >= this.lastPage && sameCause(last, entry)) {
      last.units += entry.units
      last.total += entry.total
      return
    }
    list.push({ ...entry, at: this.clock++ })
  }

  page(): Page {
    this.lastPage = this.clock
    return this.clock
  }

  /** The sum behind the tallies that bear on a gate, up to a page: their start, then every giver and taker in order. */
  from(page: Page, { tallies }: Relevance): FromEntry[] {
    return [...tallies].flatMap((t) => {
      const { id, start } = this.game.tallies[t]!
      const begin: FromEntry[] = start === 0 ? [] : [{ source: null, cause: 'start', stop: 0, tally: id, units: 0, total: fromUnits(start) }]
      return [...begin, ...this.summed(t, page)]
    })
  }

  private summed(t: number, page: Page): FromEntry[] {
    const byCause = new Map<number, FromEntry>()
    for (const entry of this.byTally[t]!) {
      if (entry.at >= page) break
      // Resets stand alone; what one source did at one stop is one line.
      const key = entry.reset ? -1 - entry.at : entry.stop * causes + keyOf(entry.cause)
      const line = byCause.get(key) ?? { ...this.named(entry.cause, entry.reset), stop: entry.stop, tally: this.game.tallies[t]!.id, units: 0, total: 0 }
      line.units += entry.units
      line.total = fromUnits(Math.round(line.total * 10_000) + entry.total)
      byCause.set(key, line)
    }
    return [...byCause.values()]
  }

  /** The XP lost up to a page by the characters that bear on a gate. */
  lost(page: Page, { characters }: Relevance): LostEntry[] {
    return [...characters].flatMap((c) => {
      const losses = this.byCharacter[c] ?? []
      return losses.filter((loss) => loss.at < page).map(({ stop, cause, why, amount }): LostEntry => {
        const { source, gate } = this.named(cause, false)
        return { source, ...(gate === undefined ? {} : { gate }), stop, character: this.game.characters[c]!.id, why, amount: fromUnits(amount) }
      })
    })
  }

  private named(cause: Cause, reset: boolean): Pick<FromEntry, 'source' | 'gate' | 'cause'> {
    if (reset || cause.type === 'enter') return { source: null, cause: 'reset' }
    if (cause.type === 'source') return { source: this.game.sources[cause.index]!.id }
    return { source: null, gate: this.game.gates[cause.index]!.id }
  }
}

/** More than there can be sources and gates. */
const causes = 1_000_000

function keyOf(cause: Cause): number {
  return cause.type === 'enter' ? 0 : cause.index * 2 + (cause.type === 'gate' ? 2 : 1)
}

function sameCause(a: Entry, b: Omit<Entry, 'at'>): boolean {
  return !a.reset && a.stop === b.stop && keyOf(a.cause) === keyOf(b.cause)
}
