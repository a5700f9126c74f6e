import { canTake, open, standsAt, take, takeAtOnce } from '../../rules/engine.ts'
import type { Play } from '../../rules/gain.ts'
import type { State } from '../../rules/state.ts'
import type { OneWay } from '../chance.ts'
import type { Branch } from './branch.ts'
import { RouteWalk, type WalkOptions } from './route-walk.ts'
import type { Cause } from './watcher.ts'

/** A walk that goes one way only, which is what most walks do: nothing is made but the moves. */
export class SingleWalk extends RouteWalk {
  private readonly isWatched: boolean

  constructor(
    options: WalkOptions,
    private readonly single: OneWay['single'],
  ) {
    super(options)
    this.isWatched = Boolean(options.watcher.events ?? options.watcher.moved)
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
    const { single, isWatched } = this
    const { game, watcher } = this.o
    const { taken } = branch.state
    if (branch.wanted[s] === -1) branch.wanted[s] = single.units(game.columns.count[s]!, this.shareOf(s))
    const left = branch.wanted[s]! - taken[s]!
    if (left === 0) return
    if (game.columns.atOnce[s] && (!isWatched || watcher.takesAtOnce)) {
      branch.changed = true
      if (isWatched) this.watched(branch, { type: 'source', index: s }, left, (state, play) => takeAtOnce(game, state, s, left, play))
      else takeAtOnce(game, branch.state, s, left, single.play)
      return
    }
    while (taken[s]! < branch.wanted[s]! && canTake(game, branch.state, s)) {
      branch.changed = true
      if (isWatched) this.watched(branch, { type: 'source', index: s }, 1, (state, play) => take(game, state, s, play))
      else take(game, branch.state, s, single.play)
    }
  }

  private passGate(branch: Branch, g: number): void {
    const { game } = this.o
    const gate = game.gates[g]!
    this.come(branch, g, gate)
    if (gate.live || !this.opensNow(branch, g, gate)) return
    branch.changed = true
    if (this.isWatched) this.watched(branch, { type: 'gate', index: g }, 1, (state, play) => open(game, state, g, play))
    else open(game, branch.state, g, this.single.play)
  }

  private watched(branch: Branch, cause: Cause, units: number, move: (state: State, play: Play) => void): void {
    this.o.watcher.moved?.(cause, this.stop, units)
    this.told(branch.state, cause, (play) => move(branch.state, { ...play, roll: this.single.play.roll }))
  }
}
