import { gatesOnWay, isOpen, standsAt } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { Safety } from './safety.ts'
import type { Scope } from './scope.ts'

/** The index of a source, or −1 − the index of a gate: as places list what they hold. */
export type Item = number

/** What can be done in some places, as far as where it stands decides it. */
export interface Around {
  places: readonly number[]
  /** What can spoil nothing, and is done as soon as it can be. */
  safe: readonly Item[]
  /** All else, and the place in which each is done. */
  others: readonly Item[]
  at: readonly number[]
  /** Open ways by which nobody can come back as things are. */
  crossings: readonly Way[]
}

interface Way {
  passage: number
  to: number
}

/** Finds what is around a player who can go and come back as far as open gates let, and keeps it for those who come as far. */
export class Surroundings {
  /** Gates that bar a way. */
  private readonly bars: number[]
  private readonly known = new Map<string, Around>()
  private readonly here: Around[]

  constructor(
    private readonly game: Game,
    private readonly scope: Scope,
    private readonly safety: Safety,
    /** Whether a move leaves something to chance: it is followed in every way that can fall, and never done at once. */
    private readonly isRandom: (item: Item) => boolean,
  ) {
    this.bars = game.gates.flatMap(({ guards }, g) => (guards === null ? [] : [g]))
    this.here = game.places.map((_, p) => this.around([p], []))
  }

  /** In a place alone. */
  at(place: number): Around {
    return this.here[place]!
  }

  /** Wherever the player can go, through what is open, and come back. */
  of(state: State): Around {
    const key = this.key(state)
    let found = this.known.get(key)
    if (!found) this.known.set(key, (found = this.aroundOf(state)))
    return found
  }

  isWayOpen(state: State, passage: number, to: number): boolean {
    for (const g of gatesOnWay(this.game, passage, to)) if (!isOpen(this.game, state, g)) return false
    return true
  }

  /** Where the player stands and which of the gates that bar a way are open: 16 in each character. */
  private key(state: State): string {
    const { bars, game } = this
    let key = String.fromCharCode(state.place)
    let bits = 0
    for (let i = 0; i < bars.length; i++) {
      const g = bars[i]!
      if (game.gates[g]!.live ? isOpen(game, state, g) : state.opened[g]) bits |= 1 << (i & 15)
      if ((i & 15) === 15) {
        key += String.fromCharCode(bits)
        bits = 0
      }
    }
    return key + String.fromCharCode(bits)
  }

  private aroundOf(state: State): Around {
    const openWays = (p: number) => this.game.places[p]!.ways.filter(({ passage, to }) => this.isWayOpen(state, passage, to))
    const ahead = closure(state.place, (p) => openWays(p).map(({ to }) => to))
    const waysBack = new Map([...ahead].map((p) => [p, [] as number[]]))
    for (const p of ahead) for (const { to } of openWays(p)) waysBack.get(to)!.push(p)
    const places = closure(state.place, (p) => waysBack.get(p)!)
    // In the order in which the player comes to them.
    const inOrder = [...ahead].filter((p) => places.has(p))
    return this.around(inOrder, inOrder.flatMap(openWays).filter(({ to }) => !places.has(to)))
  }

  private around(places: readonly number[], crossings: readonly Way[]): Around {
    const { game, scope, safety } = this
    const all: [item: Item, place: number][] = places.flatMap((p) => [...game.places[p]!.items].map((item): [Item, number] => [item, p]))
    for (const g of game.anywhere) {
      const place = places.find((p) => standsAt(game, game.gates[g]!, p))
      if (place !== undefined) all.push([-1 - g, place])
    }
    const mattering = all.filter(([item]) => (item >= 0 ? scope.sources[item] : scope.gates[-1 - item] && !safety.sinks.includes(-1 - item)))
    const isAtOnce = (item: Item) => safety.roams && (item >= 0 ? safety.sources[item]! : safety.gates[-1 - item]!) && !this.isRandom(item)
    // What can be repeated still is, after the units that it has.
    const others = mattering.filter(([item]) => !isAtOnce(item) || (item >= 0 && game.sources[item]!.respawns))
    return { places, safe: mattering.flatMap(([item]) => (isAtOnce(item) ? [item] : [])), others: others.map(([item]) => item), at: others.map(([, place]) => place), crossings }
  }
}

/** All that steps lead to, in the order in which they do. */
function closure(start: number, steps: (p: number) => readonly number[]): Set<number> {
  const seen = new Set([start])
  for (const p of seen) for (const to of steps(p)) seen.add(to)
  return seen
}
