import { plainArithmetic } from '../../language/arithmetic.ts'
import { prepareColumn, type Column, type ResolveColumn } from '../../language/columns.ts'
import type { Node } from '../../language/parse.ts'
import { unitsPerOne } from '../../plan/basics.ts'
import { levelFolds } from '../../rules/compile-requirement.ts'
import { askedOf, holds } from '../../rules/engine.ts'
import type { Game, GameComparison, GameCost, GameItem, Reads } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { Flock } from './flock.ts'

/** Asks a whole flock what the rules ask of a player: whether requirements hold, costs can be paid, and what sides amount to. */
export class FlockReader {
  private readonly ids: Record<'tally' | 'character' | 'gate' | 'place' | 'source', Map<string, number>>
  private readonly amountsOf: (() => Column)[] = []
  private readonly holding = new Map<GameItem, () => Column>()

  constructor(
    private readonly game: Game,
    private readonly flock: Flock,
  ) {
    const byId = (items: readonly { id: string }[]) => new Map(items.map(({ id }, i) => [id, i]))
    this.ids = { tally: byId(game.tallies), character: byId(game.characters), gate: byId(game.gates), place: byId(game.places), source: byId(game.sources) }
  }

  /** Marks those for whom an item's requirement holds with 1, all others with 0. */
  markWhoMay(item: GameItem, who: Column): void {
    const holds = this.truth(item)
    for (let i = 0; i < who.length; i++) who[i] = isZero(holds[i]!) ? 0 : 1
  }

  /** The value of a requirement for each, as a truth. Overwritten when it is asked again, as all columns here are. */
  private truth(item: GameItem): Column {
    let column = this.holding.get(item)
    if (!column) this.holding.set(item, (column = this.holdingOf(item)))
    return column()
  }

  private holdingOf(item: GameItem): () => Column {
    const { node, reads } = item.requires
    if (item.error) return always(this.filled(0))
    if (!node) return always(this.filled(1))
    return this.column(node) ?? this.oneByOne(reads, (state) => Number(holds(item, state)))
  }

  /** Marks in `who` those who cannot pay all costs with 0. */
  keepWhoCanPay(costs: readonly GameCost[], who: Column): void {
    for (const { tally } of costs) {
      const [{ min }, has, asked] = [this.game.tallies[tally]!, this.flock.tallies[tally]!, askedOf(costs, tally)]
      if (min === -Infinity) continue
      for (let i = 0; i < who.length; i++) if (has[i]! - asked < min) who[i] = 0
    }
  }

  /** One side of a comparison, as its evaluation one by one gives it; NaN where that fails. */
  side(comparison: GameComparison, side: 'left' | 'right', item: GameItem, valueOf: (state: State) => number): () => Column {
    return this.column(comparison[`${side}Node`]) ?? this.oneByOne(item.requires.reads, valueOf)
  }

  /** A tally's amounts, not in units. */
  amounts(t: number): () => Column {
    return (this.amountsOf[t] ??= this.amountsInOnes(t))
  }

  private amountsInOnes(t: number): () => Column {
    const [out, has] = [this.filled(0), this.flock.tallies[t]!]
    return () => {
      for (let i = 0; i < out.length; i++) out[i] = has[i]! / unitsPerOne
      return out
    }
  }

  private column(node: Node): (() => Column) | null {
    return prepareColumn(node, this.flock.size, this.resolve)
  }

  private filled(value: number): Column {
    return new Float64Array(this.flock.size).fill(value)
  }

  private oneByOne(reads: Reads, of: (state: State) => number): () => Column {
    const out = this.filled(0)
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

  private readonly resolve: ResolveColumn = (node) => {
    const { game, flock } = this
    if (node.type === 'name') {
      if (node.name === 'level') return () => flock.level[0]!
      if (node.name === 'cap') return this.limits(0)
      return this.amounts(this.ids.tally.get(node.name)!)
    }
    const [arg] = node.args
    const id = arg?.type === 'name' ? arg.name : ''
    switch (node.name) {
      case 'level': {
        const c = this.ids.character.get(id)!
        return () => flock.level[c]!
      }
      case 'cap':
        return this.limits(this.ids.character.get(id)!)
      case 'open': {
        const g = this.ids.gate.get(id)!
        return game.gates[g]!.live ? () => this.truth(game.gates[g]!) : () => flock.opened(g)
      }
      case 'taken': {
        const s = this.ids.source.get(id)!
        return () => flock.taken(s)
      }
      case 'visited': {
        const p = this.ids.place.get(id)!
        const out = this.filled(0)
        return () => out.fill(flock.visited(p))
      }
      case 'lowest':
      case 'highest':
      case 'average':
        return this.overPresent(node.name)
      default:
        return null
    }
  }

  private limits(c: number): () => Column {
    const out = this.filled(0)
    return () => {
      for (let i = 0; i < out.length; i++) out[i] = this.flock.limit(c, i)
      return out
    }
  }

  private overPresent(fold: keyof typeof levelFolds): () => Column {
    const { add, end } = levelFolds[fold]
    const { level, present } = this.flock
    const out = this.filled(0)
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

const { isZero } = plainArithmetic

function always(column: Column): () => Column {
  return () => column
}
