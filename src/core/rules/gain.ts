import type { GameEvent } from './events.ts'
import type { Game, GameCap, GameCurve, GameYield } from './game.ts'
import { limitOf, type State } from './state.ts'

/** How random amounts fall and who listens; the engine has no chance of its own. */
export interface Play {
  /** The amount, in units, that a yield gives this time. */
  roll: (y: GameYield) => number
  /** Filled with what happens, where someone wants to know. */
  events: GameEvent[] | null
  /** Tallies of which nothing is given (docs/checks.md 1, further units from elsewhere). */
  without?: (tally: number) => boolean
}

/** A yield's middle, which for a fixed one is its amount. */
export const middleRoll = (y: GameYield): number => Math.round((y.min + y.max) / 2)

export const plainPlay: Play = { roll: middleRoll, events: null }

interface Entered {
  character: number
  level: number
}

/** Gives yields one after another; the rewards they earn are all given before the next (docs/model.md 2). */
export function giveAll(game: Game, state: State, yields: readonly GameYield[], play: Play): void {
  for (const y of yields) {
    const entered: Entered[] = []
    give(game, state, y, play, entered)
    giveRewards(game, state, entered, play)
  }
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
  if (limit > before && curve) climb(state, c, curve, limit, play, entered)
}

/** Gives one amount of a tally, and all rewards that it earns. */
export function giveAmount(game: Game, state: State, tally: number, amount: number, play: Play): void {
  const entered: Entered[] = []
  credit(game, state, tally, amount, play, entered)
  if (entered.length) giveRewards(game, state, entered, play)
}

function give(game: Game, state: State, y: GameYield, play: Play, entered: Entered[]): void {
  if (play.without?.(y.tally)) return
  credit(game, state, y.tally, y.min === y.max ? y.min : play.roll(y), play, entered)
}

function credit(game: Game, state: State, t: number, amount: number, play: Play, entered: Entered[]): void {
  change(game, state, t, amount, play)
  const tally = game.tallies[t]!
  if (tally.kind !== 'experience') return
  for (const c of tally.listeners) if (state.present[c]) gain(game, state, c, amount, play, entered)
}

/** Adds to a tally's value and clamps it. */
export function change(game: Game, state: State, t: number, by: number, play: Play): void {
  const tally = game.tallies[t]!
  const before = state.tallies[t]!
  const after = Math.min(Math.max(before + by, tally.min), tally.max)
  state.tallies[t] = after
  if (after !== before) play.events?.push({ type: 'changed', tally: t, by: after - before })
}

function giveRewards(game: Game, state: State, queue: Entered[], play: Play): void {
  for (let i = 0; i < queue.length; i++) {
    const { character, level } = queue[i]!
    for (const reward of game.characters[character]!.rewards) {
      if (reward.level !== 'every' && reward.level !== level) continue
      play.events?.push({ type: 'reward', character, level })
      for (const y of reward.yields) give(game, state, y, play, queue)
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
export function xpAfter(curve: GameCurve, level: number, limit: number, xp: number, amount: number): number {
  if (level < limit || curve.atTop === 'bank') return xp + amount
  return curve.atTop === 'hold' ? Math.min(xp + amount, Math.max(xp, brimAt(curve, level))) : xp
}

/** Whether so much XP brings the next level. */
export function climbsOn(curve: GameCurve, level: number, limit: number, xp: number): boolean {
  if (level >= limit) return false
  return curve.levelUpAt === 'reached' ? xp >= valueAt(curve, level) : xp > valueAt(curve, level)
}

function gain(game: Game, state: State, c: number, units: number, play: Play, entered: Entered[]): void {
  const curve = game.characters[c]!.curve
  if (!curve) return
  const amount = units * curve.grain
  const limit = limitOf(game, state, c)
  const level = state.level[c]!
  const before = state.xp[c]!
  const after = xpAfter(curve, level, limit, before, amount)
  state.xp[c] = after
  if (level < limit) climb(state, c, curve, limit, play, entered)
  else loses(play, c, curve, amount - (after - before), 'top')
}

function loses(play: Play, character: number, curve: GameCurve, amount: number, why: 'top' | 'cleared'): void {
  if (amount > 0) play.events?.push({ type: 'lost', character, amount: amount / curve.grain, why })
}

function climb(state: State, c: number, curve: GameCurve, limit: number, play: Play, entered: Entered[]): void {
  let gained = false
  while (climbsOn(curve, state.level[c]!, limit, state.xp[c]!)) {
    levelUp(state, c, curve, play, entered)
    gained = true
    if (curve.levelsPerGain === 'one') break
  }
  if (gained && state.level[c]! >= limit) fitIntoTop(state, c, curve, play)
}

function levelUp(state: State, c: number, curve: GameCurve, play: Play, entered: Entered[]): void {
  const taken = valueAt(curve, state.level[c]!)
  state.level[c]! += 1
  entered.push({ character: c, level: state.level[c]! })
  play.events?.push({ type: 'level', character: c, to: state.level[c]! })
  if (curve.counts === 'total') return
  if (curve.remainder === 'clear') loses(play, c, curve, state.xp[c]! - taken, 'cleared')
  state.xp[c] = curve.remainder === 'carry' ? state.xp[c]! - taken : 0
}

function fitIntoTop(state: State, c: number, curve: GameCurve, play: Play): void {
  const before = state.xp[c]!
  const level = state.level[c]!
  if (curve.atTop === 'discard') state.xp[c] = floorAt(curve, level)
  if (curve.atTop === 'hold') state.xp[c] = Math.min(before, brimAt(curve, level))
  loses(play, c, curve, before - state.xp[c]!, 'top')
}

