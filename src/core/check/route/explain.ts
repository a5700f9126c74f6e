import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { finished } from '../finished.ts'
import type { DebtEntry, FromEntry, LostEntry } from '../result.ts'
import { Book, type Explanation } from './book.ts'
import { middleInSteps } from './middle-walk.ts'
import { valueOf } from './comparison.ts'
import { MiddleRecord, type FurtherFrom } from './middle.ts'
import type { Watcher } from './watcher.ts'

/** One line of a sum; of a stop: all that was given and taken there, as one. */
export type ExplainedEntry = Omit<FromEntry, 'cause'> & { cause?: NonNullable<FromEntry['cause']> | 'stop' }

/** A part of what a gate asks for that compares no numbers, and whether the middle walk has it at the due moment. */
export interface Condition {
  text: string
  holds: boolean
}

/** An explanation with what a sum does not show: what is no number, and which further units would open the gate. */
export interface GateExplanation extends Explanation {
  conditions: Condition[]
  debt: DebtEntry[]
}

/** An explanation as it is read: by tally how many lines its sum has, and those of a sum with more than `most` stop by stop. */
export interface ReadExplanation {
  from: ExplainedEntry[]
  lost: LostEntry[]
  lines: Record<string, number>
  conditions: Condition[]
  /** The quickest of them. */
  debt: DebtEntry[]
}

/** So many of the sources that would open a gate are read at a glance: in a large plan there are thousands. */
const mostDebts = 4

export function readable({ from, lost, conditions, debt }: GateExplanation, most: number): ReadExplanation {
  const lines: Record<string, number> = {}
  for (const { tally } of from) lines[tally] = (lines[tally] ?? 0) + 1
  const isLong = (tally: string) => lines[tally]! > most
  const short = from.filter(({ tally, cause }) => !isLong(tally) || cause === 'start')
  const long = merged<ExplainedEntry>(from.filter(({ tally, cause }) => isLong(tally) && cause !== 'start'), ({ stop, tally }) => `${stop} ${tally}`, (one, total): ExplainedEntry => ({ source: null, cause: 'stop', stop: one.stop, tally: one.tally, units: 0, total }), ({ total }) => total)
  const losses = lost.length > most ? merged(lost, ({ stop, character, why }) => `${stop} ${character} ${why}`, (one, amount): LostEntry => ({ ...one, source: null, amount }), ({ amount }) => amount) : lost
  return { from: [...short, ...long], lost: losses, lines, conditions, debt: debt.slice(0, mostDebts) }
}

/** Entries of one name as one, with what they come to. */
function merged<T>(entries: readonly T[], nameOf: (entry: T) => string, make: (first: T, sum: number) => T, amountOf: (entry: T) => number): T[] {
  const byName = new Map<string, { first: T; sum: number }>()
  for (const entry of entries) {
    const known = byName.get(nameOf(entry)) ?? { first: entry, sum: 0 }
    known.sum += Math.round(amountOf(entry) * 10_000)
    byName.set(nameOf(entry), known)
  }
  return [...byName.values()].map(({ first, sum }) => make(first, sum / 10_000))
}

/** What `from` and `lost` of the full document hold, for one gate alone (docs/checks.md 1), and what it asks for besides numbers. */
export function explainGate(...of: Parameters<typeof explainInSteps>): GateExplanation {
  return finished(explainInSteps(...of))
}

/**
 * The same in steps, so that a worker can look up between them. What comes after the due moment is not walked. `further`: where further
 * units are looked for from; null: they are not.
 */
export function* explainInSteps(game: Game, route: GameRoute, profile: GameProfile, g: number, further: FurtherFrom | null = null): Generator<number, GateExplanation> {
  const book = new Book(game)
  const middle = new MiddleRecord(game, route, (other) => (other === g ? further : null))
  let conditions: Condition[] = []
  const due: Watcher['due'] = ({ state }, other) => {
    if (other === g) conditions = conditionsIn(game, g, state)
  }
  for (const stop of middleInSteps(game, route, profile, [book, middle, { due }])) {
    if (book.isClosed(g)) break
    yield stop
  }
  return { ...book.explanation(g), conditions, debt: middle.further.get(g)?.debt ?? [] }
}

function conditionsIn(game: Game, g: number, state: State): Condition[] {
  return game.gates[g]!.requires.truths().map(({ text, holds }) => ({ text, holds: valueOf((at) => Number(holds(at)), state) === 1 }))
}

/** The book of the middle walk, up to the end of the route. In steps, each the share of it that has been walked. */
export function* bookInSteps(game: Game, route: GameRoute, profile: GameProfile): Generator<number, Book> {
  const book = new Book(game)
  for (const stop of middleInSteps(game, route, profile, [book])) yield stop / route.stops.length
  return book
}
