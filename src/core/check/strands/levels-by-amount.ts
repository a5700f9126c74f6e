import { giveAmount, plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { limitOf, newState, toStartLevel, type State } from '../../rules/state.ts'
import { leastOf } from '../../plan/least-of.ts'

/** Gains with which all characters have the same levels: from so many steps, to fewer than so many. */
export interface Stretch {
  from: number
  end: number
  /** By character asked after, with the first of these gains. */
  levels: Int32Array
  xp: Float64Array
}

/** Levels and XP of characters that depend on how much was gained of one tally and on nothing else: reckoned once for each level. */
export class LevelsByAmount {
  /** All that has been reckoned yet; what was reckoned of the same characters can be taken over. */
  stretches: Stretch[] = []
  private readonly reckoned: State

  /** `step`: the units of the tally that gains are counted in. */
  constructor(
    private readonly game: Game,
    private readonly tally: number,
    private readonly characters: readonly number[],
    private readonly step: number,
  ) {
    this.reckoned = newState(game)
  }

  /** Fills in what the characters are after gaining so many steps. At its limit a character's XP is left out of account. */
  read(steps: number, state: State): void {
    const { characters, game, step } = this
    if (characters.length === 0) return
    const { from, levels, xp } = this.stretchOf(steps)
    for (let i = 0; i < characters.length; i++) {
      const c = characters[i]!
      state.level[c] = levels[i]!
      state.xp[c] = xp[i]! + (steps - from) * step * (game.characters[c]!.curve?.grain ?? 0)
    }
  }

  /** The first number of steps after `steps` with which a level is another. */
  endOfLevel(steps: number): number {
    return this.characters.length === 0 ? Infinity : this.stretchOf(steps).end
  }

  private stretchOf(steps: number): Stretch {
    const { stretches } = this
    while ((stretches.at(-1)?.end ?? 0) <= steps) stretches.push(this.stretchAfter(stretches.at(-1)))
    return stretches[leastOf(0, stretches.length - 1, (i) => stretches[i]!.end > steps)]!
  }

  private stretchAfter(last: Stretch | undefined): Stretch {
    const { characters, reckoned } = this
    const from = last?.end ?? 0
    this.reckon(last, from)
    const stretch: Stretch = { from, end: Infinity, levels: Int32Array.from(characters, (c) => reckoned.level[c]!), xp: Float64Array.from(characters, (c) => reckoned.xp[c]!) }
    const isLast = characters.every((c) => reckoned.level[c]! >= limitOf(this.game, reckoned, c))
    if (!isLast) stretch.end = this.endOf(stretch)
    return stretch
  }

  /** Levels only rise with what is gained: where they first do is looked for in ever longer leaps, and then between two. */
  private endOf(stretch: Stretch): number {
    const { from } = stretch
    let leap = 1
    for (; this.isAlike(stretch, from + leap); leap *= 2) if ((from + leap * 2) * this.step > Number.MAX_SAFE_INTEGER) return Infinity
    return leastOf(from + Math.floor(leap / 2) + 1, from + leap, (steps) => !this.isAlike(stretch, steps))
  }

  private isAlike(stretch: Stretch, steps: number): boolean {
    this.reckon(stretch, steps)
    return this.characters.every((c, i) => this.reckoned.level[c] === stretch.levels[i])
  }

  /** What so many steps bring, from a stretch on or, where there is none, from the start. */
  private reckon(since: Stretch | undefined, steps: number): void {
    const { game, reckoned, characters } = this
    characters.forEach((c, i) => {
      if (!since) return toStartLevel(game, reckoned, c)
      reckoned.level[c] = since.levels[i]!
      reckoned.xp[c] = since.xp[i]!
    })
    giveAmount(game, reckoned, this.tally, (steps - (since?.from ?? 0)) * this.step, plainPlay)
  }
}
