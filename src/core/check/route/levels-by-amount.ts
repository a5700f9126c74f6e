import { unitsPerOne } from '../../plan/basics.ts'
import { giveAmount, plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { newState, toStartLevel, type State } from '../../rules/state.ts'

/** Levels and XP of characters that depend on how much was gained of one tally and on nothing else, each reckoned once. */
export class LevelsByAmount {
  /** By whole amount gained: whether it was reckoned; and by character its level and XP. */
  private isKnown = new Uint8Array(0)
  private levels: Int32Array[]
  private xp: Float64Array[]
  private readonly reckoned: State
  private readonly start: number

  constructor(
    private readonly game: Game,
    private readonly tally: number,
    private readonly characters: readonly number[],
  ) {
    this.levels = characters.map(() => new Int32Array(0))
    this.xp = characters.map(() => new Float64Array(0))
    this.reckoned = newState(game)
    this.start = game.tallies[tally]!.start / unitsPerOne
  }

  /** Fills in what the characters are with so much of the tally, which is no less than its start. */
  read(amount: number, state: State): void {
    const { characters } = this
    if (characters.length === 0) return
    const gained = amount - this.start
    if (gained >= this.isKnown.length) this.widen(gained + 1)
    if (this.isKnown[gained] === 0) this.reckon(gained)
    for (let i = 0; i < characters.length; i++) {
      state.level[characters[i]!] = this.levels[i]![gained]!
      state.xp[characters[i]!] = this.xp[i]![gained]!
    }
  }

  private reckon(gained: number): void {
    const { game, reckoned, characters } = this
    for (const c of characters) toStartLevel(game, reckoned, c)
    giveAmount(game, reckoned, this.tally, gained * unitsPerOne, plainPlay)
    characters.forEach((c, i) => {
      this.levels[i]![gained] = reckoned.level[c]!
      this.xp[i]![gained] = reckoned.xp[c]!
    })
    this.isKnown[gained] = 1
  }

  private widen(length: number): void {
    const size = Math.max(1024, 2 ** Math.ceil(Math.log2(length)))
    const wider = <T extends { set(of: ArrayLike<number>): void }>(to: T, from: ArrayLike<number>): T => {
      to.set(from)
      return to
    }
    this.isKnown = wider(new Uint8Array(size), this.isKnown)
    this.levels = this.levels.map((of) => wider(new Int32Array(size), of))
    this.xp = this.xp.map((of) => wider(new Float64Array(size), of))
  }
}
