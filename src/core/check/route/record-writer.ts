import { fromUnits } from '../../rules/compile.ts'
import type { Game } from '../../rules/game.ts'
import { levelPosition } from '../../rules/level-position.ts'
import type { State } from '../../rules/state.ts'
import type { Branch } from './branch.ts'
import type { MarkedTargets } from './itinerary.ts'
import { positionParts, type RouteRecord } from './record.ts'
import type { Watcher } from './watcher.ts'

/** A character's level with the way made into the next, as finely as it is drawn. */
export function drawnPosition(game: Game, state: State, c: number): number {
  return Math.round(levelPosition(game, state, c) * positionParts) / positionParts
}

/** Writes into the record what walks show of some targets, each with a share of the weight; 0: only what is possible is noted. */
export class RecordWriter implements Watcher {
  constructor(
    private readonly record: RouteRecord,
    private readonly targets: MarkedTargets,
    private readonly share: number,
  ) {}

  met(g: number, stop: number, due: number): void {
    if (this.targets.gates[g]) this.record.toNote(g).noteMet(stop, due)
  }

  due(branch: Branch, g: number, success: boolean): void {
    if (!this.targets.gates[g]) return
    const record = this.record.toNote(g)
    const weight = branch.weight * this.share
    if (success) record.success += weight
    if (success) record.everOpen = true
    else record.everClosed = true
    for (const comparison of record.comparisons) comparison.add(branch.state, weight)
  }

  opened(branch: Branch, g: number, stop: number): void {
    if (this.targets.gates[g]) this.record.toNote(g).noteOpened(stop, branch.weight * this.share)
  }

  ready(branch: Branch, g: number, stop: number): void {
    if (this.targets.gates[g]) this.record.toNote(g).noteReady(stop, branch.weight * this.share)
  }

  left({ state, weight }: Branch, stop: number): void {
    const { targets, record } = this
    const share = weight * this.share
    const { tallies, levels, positions } = record.stops[stop]!
    for (const t of targets.tallies) tallies.add(t, fromUnits(state.tallies[t]!), share)
    for (const c of targets.characters) {
      levels.add(c, state.level[c]!, share)
      positions.add(c, drawnPosition(record.game, state, c), share)
    }
  }
}
