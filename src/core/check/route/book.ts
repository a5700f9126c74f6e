import type { Game } from '../../rules/game.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { FromEntry, LostEntry } from '../result.ts'
import type { Branch } from './branch.ts'
import { Ledger, type Page } from './ledger.ts'
import { relevanceOf } from './relevance.ts'
import type { Cause, Watcher } from './watcher.ts'

/** The sum behind one gate: what gave and took what it asks for, and the XP lost, up to its due moment. */
export interface Explanation {
  from: FromEntry[]
  lost: LostEntry[]
}

/** Keeps the book of the middle walk (docs/checks.md 1): what a gate's amounts were made of at its due moment, or just before it opened. */
export class Book implements Watcher {
  readonly takesAtOnce = false
  readonly asksAmounts = true
  private readonly ledger: Ledger
  /** By gate: where the book stood then. */
  private readonly pages: (Page | null)[]

  constructor(private readonly game: Game) {
    this.ledger = new Ledger(game)
    this.pages = game.gates.map(() => null)
  }

  events(events: readonly GameEvent[], cause: Cause, stop: number): void {
    this.ledger.add(events, cause, stop)
  }

  due(_: Branch, g: number): void {
    this.pages[g] = this.ledger.page()
  }

  /** Whether a gate's moment has come. */
  isClosed(g: number): boolean {
    return this.pages[g] !== null
  }

  explanation(g: number): Explanation {
    const page = this.pages[g]
    if (page === null || page === undefined) return { from: [], lost: [] }
    const relevance = relevanceOf(this.game, this.game.gates[g]!)
    return { from: this.ledger.from(page, relevance), lost: this.ledger.lost(page, relevance) }
  }

  /** How many lines a gate's explanation has. */
  linesOf(g: number): number {
    const page = this.pages[g]
    return page === null || page === undefined ? 0 : this.ledger.linesUpTo(page, relevanceOf(this.game, this.game.gates[g]!))
  }
}
