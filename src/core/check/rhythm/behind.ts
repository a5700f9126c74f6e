import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Cause, Watcher } from '../route/watcher.ts'

/** A gain after which a character's level stayed behind its XP. */
export interface Lag {
  /** The XP of the gain. */
  amount: number
  levels: number
  cause: Cause
}

/** Notes along a middle walk how far levels stay behind the XP, where a gain brings one at the most. */
export class Behind implements Watcher {
  /** By character the gain after which its level was furthest behind. */
  readonly worst = new Map<number, Lag>()

  events(events: readonly GameEvent[], cause: Cause): void {
    for (const event of events) {
      if (event.type !== 'behind') continue
      const { character, levels, amount } = event
      if (levels > (this.worst.get(character)?.levels ?? 0)) this.worst.set(character, { amount: fromUnits(amount), levels, cause })
    }
  }
}
