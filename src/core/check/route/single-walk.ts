import { canTake, open, standsAt, take, takeAtOnce } from '../../rules/engine.ts'
import type { Play } from '../../rules/gain.ts'
import type { OneWay } from '../chance.ts'
import type { Branch } from './branch.ts'
import { RouteWalk, type WalkOptions } from './route-walk.ts'
import type { Cause } from './watcher.ts'

/** A walk that goes one way only, which is what most walks do: nothing is made but the moves. */
export class SingleWalk extends RouteWalk {
  private readonly isWatched: boolean
  private readonly play: Play

  constructor(
    options: WalkOptions,
    private readonly single: OneWay['single'],
  ) {
    super(options)
    this.isWatched = Boolean(options.watcher.events ?? options.watcher.moved)
    this.play = this.playing(single.roll)
  }

  protected passUntilQuiet(place: number): void {
    const { game, itinerary: { items, anywhere } } = this.o
    const branch = this.branches[0]!
    for (branch.changed = true; branch.changed; this.passes++) {
      branch.changed = false
      for (const item of items[place]!) {
        if (item >= 0) this.passSource(branch, item)
        else this.passGate(branch, -1 - item)
      }
      for (const g of anywhere) if (standsAt(game, game.gates[g]!, place)) this.passGate(branch, g)
    }
  }

  private passSource(branch: Branch, s: number): void {
    const { single, isWatched, play } = this
    const { game, watcher } = this.o
    const { state, wanted } = branch
    if (wanted[s] === -1) wanted[s] = single.units(game.columns.count[s]!, this.shareOf(s))
    const left = wanted[s]! - state.taken[s]!
    if (left === 0) return
    const cause: Cause | null = isWatched ? { type: 'source', index: s } : null
    if (game.columns.atOnce[s] && (!isWatched || watcher.takesAtOnce)) {
      branch.changed = true
      if (cause) watcher.moved?.(cause, this.stop, left, state)
      takeAtOnce(game, state, s, left, play)
      if (cause) this.tell(cause)
      return
    }
    while (state.taken[s]! < wanted[s]! && canTake(game, state, s)) {
      branch.changed = true
      if (cause) watcher.moved?.(cause, this.stop, 1, state)
      take(game, state, s, play)
      if (cause) this.tell(cause)
    }
  }

  private passGate(branch: Branch, g: number): void {
    const { game, watcher } = this.o
    const gate = game.gates[g]!
    this.come(branch, g, gate)
    if (gate.live || !this.opensNow(branch, g, gate)) return
    branch.changed = true
    const cause: Cause | null = this.isWatched ? { type: 'gate', index: g } : null
    if (cause) watcher.moved?.(cause, this.stop, 1, branch.state)
    open(game, branch.state, g, this.play)
    if (cause) this.tell(cause)
  }
}
