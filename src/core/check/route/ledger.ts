import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game } from '../../rules/game.ts'
import type { FromEntry, LostEntry } from '../result.ts'
import { leastOf } from '../../plan/least-of.ts'
import type { Relevance } from './relevance.ts'
import type { Cause } from './watcher.ts'

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

/** Lines in the order of their first entries, and as they are told. */
interface Sum {
  lines: { entries: Entry[] }[]
  told: FromEntry[]
}

/** A moment in the book; what came later is not part of a sum made up to here. */
export type Page = number

/** The book of a walk: for each tally what gave or took how much, at which stop, in order; and the XP that was lost. */
export class Ledger {
  private readonly byTally: Entry[][]
  private readonly byCharacter: Loss[][]
  /** By tally, once it was asked for and while nothing is entered. */
  private readonly sums: (Sum | null)[]
  private clock = 0
  private lastPage = 0

  constructor(private readonly game: Game) {
    this.byTally = game.tallies.map(() => [])
    this.sums = game.tallies.map(() => null)
    this.byCharacter = game.characters.map(() => [])
  }

  /** Enters what one move did. */
  add(events: readonly GameEvent[], cause: Cause, stop: number): void {
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
    this.sums[tally] = null
    const list = this.byTally[tally]!
    const last = list.at(-1)
    if (last && !entry.reset && last.at >= this.lastPage && sameCause(last, entry)) {
      last.units += entry.units
      last.total += entry.total
      return
    }
    list.push({ at: this.clock++, ...entry })
  }

  page(): Page {
    this.lastPage = this.clock
    return this.clock
  }

  /** The sum behind the tallies that bear on a gate, up to a page: their start, then every giver and taker in order. */
  from(page: Page, { tallies }: Relevance): FromEntry[] {
    const parts = [...tallies].map((t) => {
      const { id, start } = this.game.tallies[t]!
      const begin: FromEntry[] = start === 0 ? [] : [{ source: null, cause: 'start', stop: 0, tally: id, units: 0, total: fromUnits(start) }]
      return begin.concat(this.summed(t, page))
    })
    // Put together at once: a plan has as many such sums as gates, each of thousands of lines.
    return ([] as FromEntry[]).concat(...parts)
  }

  /** How many lines `from` and `lost` have up to a page. */
  linesUpTo(page: Page, { tallies, characters }: Relevance): number {
    let lines = 0
    for (const t of tallies) lines += Number(this.game.tallies[t]!.start !== 0) + begunBefore(this.linesOf(t).lines, page)
    for (const c of characters) lines += leastOf(0, this.byCharacter[c]!.length, (i) => this.byCharacter[c]![i]!.at >= page)
    return lines
  }

  /** All lines up to a page; those that were whole by then are the same objects in every sum. */
  private summed(t: number, page: Page): FromEntry[] {
    const { lines, told } = this.linesOf(t)
    const count = begunBefore(lines, page)
    const sum = told.slice(0, count)
    const stop = sum.at(-1)?.stop
    for (let i = count - 1; i >= 0 && sum[i]!.stop === stop; i--) {
      const { entries } = lines[i]!
      if (entries.at(-1)!.at >= page) sum[i] = this.told(t, entries.filter(({ at }) => at < page))
    }
    return sum
  }

  /** The lines of a whole sum: what one source did at one stop is one line, and resets stand alone. */
  private linesOf(t: number): Sum {
    const known = this.sums[t]
    if (known) return known
    const byCause = new Map<number, { entries: Entry[] }>()
    for (const entry of this.byTally[t]!) {
      const key = entry.reset ? -1 - entry.at : entry.stop * causes + keyOf(entry.cause)
      const line = byCause.get(key)
      if (line) line.entries.push(entry)
      else byCause.set(key, { entries: [entry] })
    }
    const lines = [...byCause.values()]
    return (this.sums[t] = { lines, told: lines.map(({ entries }) => this.told(t, entries)) })
  }

  private told(t: number, entries: readonly Entry[]): FromEntry {
    const { cause, reset, stop } = entries[0]!
    const sumOf = (of: (entry: Entry) => number) => entries.reduce((sum, entry) => sum + of(entry), 0)
    return Object.assign(this.named(cause, reset), { stop, tally: this.game.tallies[t]!.id, units: sumOf(({ units }) => units), total: fromUnits(sumOf(({ total }) => total)) })
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

/** How many lines were begun before a page, in their order. */
function begunBefore(lines: Sum['lines'], page: Page): number {
  return leastOf(0, lines.length, (i) => lines[i]!.entries[0]!.at >= page)
}

/** More than there can be sources and gates. */
const causes = 1_000_000

function keyOf(cause: Cause): number {
  return cause.type === 'enter' ? 0 : cause.index * 2 + (cause.type === 'gate' ? 2 : 1)
}

function sameCause(a: Entry, b: Omit<Entry, 'at'>): boolean {
  return !a.reset && a.stop === b.stop && keyOf(a.cause) === keyOf(b.cause)
}
