import type { GameEvent } from './events.ts'
import type { Game, GameCap, GameCurve, GameYield } from './game.ts'
import { limitOf, type State } from './state.ts'

/** Where levels and XP stand: one for each character, as in a State, or one character's for each of many players. */
export type Standing = { level: Int32Array | Float64Array; xp: Float64Array }

/** How random amounts fall and who listens; the engine has no chance of its own. */
export interface Play {
  /** The amount, in units, that a yield gives this time. */
  roll: (y: GameYield) => number
  /** Filled with what happens, where someone wants to know. */
  events: GameEvent[] | null
  /** Whether amounts that change are left out of it: most of what happens is that. */
  leavesOutAmounts: boolean
}

/** All of one shape: what happens most is told of a play. */
export function playOf(roll: Play['roll'], events: Play['events'] = null, leavesOutAmounts = false): Play {
  return { roll, events, leavesOutAmounts }
}

/** A yield's middle, which for a fixed one is its amount. */
export const middleRoll = (y: GameYield): number => Math.round((y.min + y.max) / 2)

export const plainPlay = playOf(middleRoll)

export interface Entered {
  character: number
  level: number
}

/** Gives yields one after another; the rewards they earn are all given before the next (docs/model.md 2). */
export function giveAll(game: Game, state: State, yields: readonly GameYield[], play: Play): void {
  for (const y of yields) giveAmount(game, state, y.tally, amountOf(y, play), play)
}

/** Sets new caps one after another; those whose limit rises climb once, then rewards are given. */
export function setCaps(game: Game, state: State, caps: readonly GameCap[], play: Play): void {
  for (const cap of caps) {
    const entered: Entered[] = []
    game.characters.forEach((_, c) => {
      if (cap.character === null || cap.character === c) setCap(game, state, c, cap.level, play, entered)
    })
    giveRewards(game, state, entered, play)
  }
}

function setCap(game: Game, state: State, c: number, level: number, play: Play, entered: Entered[]): void {
  const before = limitOf(game, state, c)
  state.cap[c] = level
  const limit = limitOf(game, state, c)
  if (limit !== before) play.events?.push({ type: 'cap', character: c, limit })
  const curve = game.characters[c]!.curve
  if (limit > before && curve) climb(state, c, c, curve, limit, play, entered)
}

/** Gives one amount of a tally, and all rewards that it earns. */
export function giveAmount(game: Game, state: State, tally: number, amount: number, play: Play): void {
  if (enteredNow.length) enteredNow.length = 0
  credit(game, state, tally, amount, play, enteredNow)
  if (enteredNow.length) giveRewards(game, state, enteredNow, play)
}

/** Levels that the gain under way has brought: there is one at a time, and most bring none. */
const enteredNow: Entered[] = []

function amountOf(y: GameYield, play: Play): number {
  return y.min === y.max ? y.min : play.roll(y)
}

function credit(game: Game, state: State, t: number, amount: number, play: Play, entered: Entered[]): void {
  change(game, state, t, amount, play)
  const tally = game.tallies[t]!
  if (tally.kind !== 'experience') return
  for (const c of tally.listeners) {
    const { curve } = game.characters[c]!
    if (curve && state.present[c]) gain(state, c, c, curve, limitOf(game, state, c), amount, play, entered)
  }
}

/** Adds to a tally's value and clamps it. */
export function change(game: Game, state: State, t: number, by: number, play: Play): void {
  const tally = game.tallies[t]!
  const before = state.tallies[t]!
  const after = Math.min(Math.max(before + by, tally.min), tally.max)
  state.tallies[t] = after
  if (after !== before && !play.leavesOutAmounts) play.events?.push({ type: 'changed', tally: t, by: after - before })
}

/** Gives what the levels entered earn, and what is entered by that in turn: the queue grows meanwhile. */
export function giveRewards(game: Game, state: State, queue: Entered[], play: Play): void {
  for (let i = 0; i < queue.length; i++) {
    const { character, level } = queue[i]!
    for (const reward of game.characters[character]!.rewards) {
      if (reward.level !== 'every' && reward.level !== level) continue
      play.events?.push({ type: 'reward', character, level })
      for (const y of reward.yields) credit(game, state, y.tally, amountOf(y, play), play, queue)
    }
  }
}

/** The XP at which a character under `hold` is full. */
function brimAt(curve: GameCurve, level: number): number {
  return level < curve.maxLevel ? valueAt(curve, level) : floorAt(curve, level)
}

export function valueAt(curve: GameCurve, level: number): number {
  return curve.values[level - curve.firstLevel]!
}

/** The XP with which a level is entered when nothing is carried: 0, or for `total` the value of the level before. */
export function floorAt(curve: GameCurve, level: number): number {
  return curve.counts === 'step' || level <= curve.firstLevel ? 0 : valueAt(curve, level - 1)
}

/** The XP after a gain, before any level-up: what is gained at the limit may be lost (docs/model.md 2). */
function xpAfter(curve: GameCurve, level: number, limit: number, xp: number, amount: number): number {
  if (level < limit || curve.atTop === 'bank') return xp + amount
  return curve.atTop === 'hold' ? Math.min(xp + amount, Math.max(xp, brimAt(curve, level))) : xp
}

/** Whether so much XP brings the next level. */
function climbsOn(curve: GameCurve, level: number, limit: number, xp: number): boolean {
  if (level >= limit) return false
  return curve.levelUpAt === 'reached' ? xp >= valueAt(curve, level) : xp > valueAt(curve, level)
}

/** A gain of so many units for a character `c`, who stands at `at`: the levels it brings are added to `entered`, not what they earn. */
export function gain(standing: Standing, at: number, c: number, curve: GameCurve, limit: number, units: number, play: Play, entered: Entered[]): void {
  const amount = units * curve.grain
  const level = standing.level[at]!
  const before = standing.xp[at]!
  const after = xpAfter(curve, level, limit, before, amount)
  standing.xp[at] = after
  if (level < limit) {
    climb(standing, at, c, curve, limit, play, entered)
    if (play.events && curve.levelsPerGain === 'one') tellBehind(standing, at, c, curve, limit, units, play.events)
  } else loses(play, c, curve, amount - (after - before), 'top')
}

function tellBehind({ level, xp }: Standing, at: number, character: number, curve: GameCurve, limit: number, amount: number, events: GameEvent[]): void {
  let [reached, left] = [level[at]!, xp[at]!]
  for (; climbsOn(curve, reached, limit, left); reached++) if (curve.counts === 'step') left -= valueAt(curve, reached)
  if (reached > level[at]!) events.push({ type: 'behind', character, amount, levels: reached - level[at]! })
}

function loses(play: Play, character: number, curve: GameCurve, amount: number, why: 'top' | 'cleared'): void {
  if (amount > 0) play.events?.push({ type: 'lost', character, amount: amount / curve.grain, why })
}

/** The levels that the XP there is bring. */
export function climb(standing: Standing, at: number, c: number, curve: GameCurve, limit: number, play: Play, entered: Entered[]): void {
  const { level, xp } = standing
  let gained = false
  while (climbsOn(curve, level[at]!, limit, xp[at]!)) {
    levelUp(standing, at, c, curve, play, entered)
    gained = true
    if (curve.levelsPerGain === 'one') break
  }
  if (gained && level[at]! >= limit) fitIntoTop(standing, at, c, curve, play)
}

function levelUp({ level, xp }: Standing, at: number, c: number, curve: GameCurve, play: Play, entered: Entered[]): void {
  const taken = valueAt(curve, level[at]!)
  level[at]! += 1
  entered.push({ character: c, level: level[at]! })
  play.events?.push({ type: 'level', character: c, to: level[at]! })
  if (curve.counts === 'total') return
  if (curve.remainder === 'clear') loses(play, c, curve, xp[at]! - taken, 'cleared')
  xp[at] = curve.remainder === 'carry' ? xp[at]! - taken : 0
}

function fitIntoTop({ level, xp }: Standing, at: number, c: number, curve: GameCurve, play: Play): void {
  const before = xp[at]!
  if (curve.atTop === 'discard') xp[at] = floorAt(curve, level[at]!)
  if (curve.atTop === 'hold') xp[at] = Math.min(before, brimAt(curve, level[at]!))
  loses(play, c, curve, before - xp[at]!, 'top')
}
