import { gatesOnWay, isOpen, standsAt } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { closure } from './closure.ts'
import type { Safety } from './safety.ts'
import type { Scope } from './scope.ts'

/** The index of a source, or −1 − the index of a gate: as places list what they hold. */
export type Item = number

/** What can be done in some places, as far as where it stands decides it. */
export interface Around {
  /** In the order in which they are come to from the first of the plan among them, which stands for all and before them. */
  places: readonly number[]
  /** What can spoil nothing, and is done as soon as it can be. */
  safe: readonly Item[]
  /** All else, and the place in which each is done. */
  others: readonly Item[]
  at: readonly number[]
  /** Open ways by which nobody can come back as things are. */
  crossings: readonly Way[]
  /** From each of the places a way to another of them. */
  onward: ReadonlyMap<number, Way>
}

/** Items in all that is kept, at most. */
const mostKept = 2_000_000

interface Way {
  passage: number
  to: number
}

/** Finds what is around a player who can go and come back as far as open gates let, and keeps it for those who come as far. */
export class Surroundings {
  /** Gates that bar a way. */
  private readonly bars: number[]
  private readonly known = new Map<string, Around>()
  private kept = 0
  /** By place what stands there, and the same with what can be done anywhere. */
  private readonly standing: Pick<Around, 'safe' | 'others'>[]
  private readonly here: Around[]
  /** By place who joins there. */
  private readonly joining: readonly number[][]
  readonly hasLiveWays: boolean
  private readonly anywhere: [item: Item, isAtOnce: boolean][]

  constructor(
    private readonly game: Game,
    private readonly scope: Scope,
    safety: Safety,
    /** Whether a move leaves something to chance: it is followed in every way that can fall, and never done at once. */
    isRandom: (item: Item) => boolean,
  ) {
    this.joining = game.places.map((_, p) => game.characters.flatMap(({ joins }, c) => (joins === p ? [c] : [])))
    this.bars = game.gates.flatMap(({ guards }, g) => (guards === null ? [] : [g]))
    this.hasLiveWays = this.bars.some((g) => game.gates[g]!.live)
    const sinks = new Set(safety.sinks)
    const matters = (item: Item) => (item >= 0 ? scope.sources[item]! : scope.gates[-1 - item]! && !sinks.has(-1 - item))
    const isAtOnce = (item: Item) => safety.roams && (item >= 0 ? safety.sources[item]! : safety.gates[-1 - item]!) && !isRandom(item)
    // What can be repeated still is, after the units that it has.
    const isFollowed = (item: Item) => !isAtOnce(item) || (item >= 0 && game.sources[item]!.respawns)
    this.anywhere = game.anywhere.map((g): Item => -1 - g).filter(matters).map((item) => [item, isAtOnce(item)])
    this.standing = game.places.map(({ items }) => {
      const mattering = [...items].filter(matters)
      return { safe: mattering.filter(isAtOnce), others: mattering.filter(isFollowed) }
    })
    this.here = game.places.map((_, p) => this.together([p], [], new Map()))
  }

  /** In a place alone. */
  at(place: number): Around {
    return this.here[place]!
  }

  /** Wherever the player can go, through what is open, and come back. */
  of(state: State): Around {
    const key = this.key(state)
    let found = this.known.get(key)
    if (found) return found
    found = this.aroundOf(state)
    this.kept += found.safe.length + found.others.length
    if (this.kept > mostKept) {
      this.known.clear()
      this.kept = 0
    }
    this.known.set(key, found)
    return found
  }

  /** Whoever can go to a place and come back has as good as been there, and who joins there has joined. */
  arrive(state: State, place: number): void {
    state.visited[place] = 1
    for (const c of this.joining[place]!) state.present[c] = 1
  }

  /** Whether arriving at a place would change anything. */
  isNew(state: State, place: number): boolean {
    return (this.scope.places[place]! && !state.visited[place]) || this.joining[place]!.some((c) => this.scope.characters[c] && !state.present[c])
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
    const first = Math.min(...places)
    if (state.place !== first) return this.ofFirst(state, first)
    const inOrder = [...ahead].filter((p) => places.has(p))
    const ways = inOrder.flatMap((from) => openWays(from).map((way) => ({ from, way })))
    const onward = new Map(ways.filter(({ from, way: { to } }) => to !== from && places.has(to)).reverse().map(({ from, way }) => [from, way]))
    return this.together(inOrder, ways.flatMap(({ way }) => (places.has(way.to) ? [] : [way])), onward)
  }

  /** What is around is the same wherever in it the player stands. */
  private ofFirst(state: State, first: number): Around {
    const { place } = state
    state.place = first
    const around = this.of(state)
    state.place = place
    return around
  }

  private together(places: readonly number[], crossings: readonly Way[], onward: Around['onward']): Around {
    const { game, standing } = this
    const [safe, others, at]: [Item[], Item[], number[]] = [[], [], []]
    for (const p of places) {
      safe.push(...standing[p]!.safe)
      others.push(...standing[p]!.others)
      at.push(...standing[p]!.others.map(() => p))
    }
    for (const [item, isAtOnce] of this.anywhere) {
      const place = places.find((p) => standsAt(game, game.gates[-1 - item]!, p))
      if (place === undefined) continue
      if (isAtOnce) safe.push(item)
      else {
        others.push(item)
        at.push(place)
      }
    }
    return { places, safe, others, at, crossings, onward }
  }
}
