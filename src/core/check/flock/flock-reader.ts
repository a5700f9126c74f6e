import { prepareColumn, prepareMarks, Scratch, type Column, type Marks, type ResolveColumn } from '../../language/columns.ts'
import { print } from '../../language/print.ts'
import { unitsPerOne } from '../../plan/basics.ts'
import { askedOf, holds } from '../../rules/engine.ts'
import type { Game, GameComparison, GameCost, GameItem, Reads } from '../../rules/game.ts'
import { isLevelFold, levelFolds, type LevelFold } from '../../rules/level-folds.ts'
import { meaningIn, type AskedOfOne } from '../../rules/meaning.ts'
import type { State } from '../../rules/state.ts'
import type { Flock } from './flock.ts'

/** Asks a whole flock what the rules ask of a player: whether requirements hold, costs can be paid, and what sides amount to. */
export class FlockReader {
  /** What names, and functions of names, stand for, by their text. */
  private readonly named = new Map<string, () => Column>()
  private readonly holding = new Map<GameItem, (out: Marks) => void>()
  /** Trees are worked out in these; a second side of a comparison from `secondSide` on. */
  private readonly scratch: Scratch

  constructor(
    private readonly game: Game,
    private readonly flock: Flock,
  ) {
    this.scratch = new Scratch(flock.size)
  }

  /** Marks those for whom an item's requirement holds with 1, all others with 0. */
  markWhoMay(item: GameItem, who: Marks): void {
    let mark = this.holding.get(item)
    if (!mark) this.holding.set(item, (mark = this.holdingOf(item, this.scratch)))
    mark(who)
  }

  private holdingOf(item: GameItem, scratch: Scratch): (out: Marks) => void {
    const { node, reads } = item.requires
    if (item.error) return (out) => out.fill(0)
    if (!node) return (out) => out.fill(1)
    const marks = prepareMarks(node, { resolve: this.resolve, scratch })
    if (marks) return marks
    const alone = this.oneByOne(reads, (state) => Number(holds(item, state)))
    return (out) => out.set(alone())
  }

  /** Marks in `who` those who cannot pay all costs with 0. */
  keepWhoCanPay(costs: readonly GameCost[], who: Marks): void {
    for (const { tally } of costs) {
      const [{ min }, has, asked] = [this.game.tallies[tally]!, this.flock.tallies[tally]!, askedOf(costs, tally)]
      if (min === -Infinity) continue
      for (let i = 0; i < who.length; i++) if (has[i]! - asked < min) who[i] = 0
    }
  }

  /** One side of a comparison, as its evaluation one by one gives it; NaN where that fails. Both sides stand at once. */
  side(comparison: GameComparison, side: 'left' | 'right', item: GameItem, valueOf: (state: State) => number): () => Column {
    const column = prepareColumn(comparison[`${side}Node`], { resolve: this.resolve, scratch: this.scratch }, side === 'left' ? 0 : secondSide)
    return column ?? this.oneByOne(item.requires.reads, valueOf)
  }

  /** A column of one number. */
  constant(value: number): Column {
    return this.scratch.constant(value)
  }

  /** A tally's amounts, not in units. */
  amounts(t: number): () => Column {
    return this.namedOnce(this.game.tallies[t]!.id, () => this.amountsInOnes(t))
  }

  private namedOnce(name: string, made: () => () => Column): () => Column {
    if (!this.named.has(name)) this.named.set(name, made())
    return this.named.get(name)!
  }

  private amountsInOnes(t: number): () => Column {
    const [out, has] = [this.filled(), this.flock.tallies[t]!]
    return () => {
      for (let i = 0; i < out.length; i++) out[i] = has[i]! / unitsPerOne
      return out
    }
  }

  private filled(): Column {
    return new Float64Array(this.flock.size)
  }

  private oneByOne(reads: Reads, of: (state: State) => number): () => Column {
    const out = this.filled()
    const all = this.readsWithin(reads)
    return () => {
      for (let i = 0; i < out.length; i++) out[i] = of(this.flock.get(i, all))
      return out
    }
  }

  /** What is read, with what the live gates that are read rest on. */
  private readsWithin(reads: Reads): Pick<Reads, 'gates' | 'sources'> {
    const [gates, sources] = [new Set(reads.gates), new Set(reads.sources)]
    for (const g of gates) {
      const { live, requires } = this.game.gates[g]!
      if (!live) continue
      for (const other of requires.reads.gates) gates.add(other)
      for (const s of requires.reads.sources) sources.add(s)
    }
    return { gates: [...gates], sources: [...sources] }
  }

  private readonly resolve: ResolveColumn = (node) => this.namedOnce(node.type === 'name' ? node.name : print(node), () => this.columnOf(node))

  private columnOf(node: Parameters<ResolveColumn>[0]): () => Column {
    const { of, index } = meaningIn(this.game, node)
    return isLevelFold(of) ? this.overPresent(of) : this.columns[of](index)
  }

  private readonly columns: Record<AskedOfOne, (index: number) => () => Column> = {
    tally: (t) => this.amountsInOnes(t),
    level: (c) => () => this.flock.level[c]!,
    cap: (c) => this.limits(c),
    open: (g) => this.openings(g),
    visited: (p) => {
      const out = this.filled()
      return () => out.fill(this.flock.visited(p))
    },
    taken: (s) => {
      const [out, taken] = [this.filled(), this.flock.taken(s)]
      return () => {
        out.set(taken)
        return out
      }
    },
  }

  private openings(g: number): () => Column {
    const gate = this.game.gates[g]!
    const out = this.filled()
    // What is asked of a live gate is worked out apart, in the midst of what asks for it.
    const [marks, mark] = gate.live ? [new Uint8Array(out.length), this.holdingOf(gate, new Scratch(out.length))] : [this.flock.opened(g), null]
    return () => {
      mark?.(marks)
      out.set(marks)
      return out
    }
  }

  private limits(c: number): () => Column {
    const out = this.filled()
    return () => {
      for (let i = 0; i < out.length; i++) out[i] = this.flock.limit(c, i)
      return out
    }
  }

  private overPresent(fold: LevelFold): () => Column {
    const { add, end } = levelFolds[fold]
    const { level, present } = this.flock
    const out = this.filled()
    return () => {
      for (let i = 0; i < out.length; i++) {
        let [so, n] = [0, 0]
        for (let c = 0; c < level.length; c++) if (present[c]![i]) so = add(so, level[c]![i]!, ++n)
        out[i] = end && n ? end(so, n) : so
      }
      return out
    }
  }
}

/** Further than any side of a comparison is nested. */
const secondSide = 128
