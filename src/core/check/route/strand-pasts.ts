import { sameList } from '../../plan/same-list.ts'
import type { GameRoute } from '../../rules/game.ts'
import type { StrandPast } from '../strands/strand-milestone.ts'
import { standing } from './milestone.ts'
import type { Portion } from './portion.ts'

/** Edits of one thing after another touch other portions: so many of those that were walked together are kept. */
const most = 4

/** Walks on strands that another can go on from, each with the portions that it told of: the last first. */
export class StrandPasts {
  constructor(private readonly all: readonly { portions: readonly Portion[]; past: StrandPast }[] = []) {}

  /** With the milestones that those pass that stay as they are up to a stop of a route. */
  upTo(stop: number, route: GameRoute): StrandPasts {
    return new StrandPasts(this.all.map(({ portions, past }) => ({ portions, past: { ...past, milestones: standing(past.milestones, stop, route) } })))
  }

  /** The one, of those that told of all these portions and perhaps of others, that can be gone on from at the latest stop. */
  of(portions: readonly Portion[]): StrandPast | null {
    const last = ({ milestones }: StrandPast) => milestones.at(-1)?.stop ?? 0
    const fit = this.all.filter((other) => portions.every((portion) => other.portions.includes(portion))).map(({ past }) => past)
    return fit.reduce<StrandPast | null>((best, past) => (best && last(best) >= last(past) ? best : past), null)
  }

  /**
   * After a walk of some portions. `past` null: something of them could not be told. Then the record shows otherwise what it says of them
   * at any stop, and no walk of them before goes with it any more.
   */
  after(portions: readonly Portion[], past: StrandPast | null): StrandPasts {
    if (!past) return new StrandPasts(this.all.filter((other) => !other.portions.some((portion) => portions.includes(portion))))
    return new StrandPasts([{ portions, past }, ...this.all.filter((other) => !sameList(other.portions, portions))].slice(0, most))
  }
}
