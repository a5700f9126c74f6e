import { prepareRange, type Range, type Ranged } from '../../language/ranges.ts'
import { children, isComparison, type Node } from '../../language/parse.ts'
import { unitsPerOne } from '../../plan/basics.ts'
import { remembered } from '../../plan/remembered.ts'
import type { Game, GameGate, GameItem, GameRequirement } from '../../rules/game.ts'
import { foldedLevels, isLevelFold, type LevelFold } from '../../rules/level-folds.ts'
import { isNamed, meaningIn, type AskedOfOne, type Meaning, type Named } from '../../rules/meaning.ts'
import { limitOf } from '../../rules/state.ts'
import type { Bounds } from './bounds.ts'

/** What a requirement, or a part of one, asks for, by index. */
export interface Asked {
  tallies: number[]
  /** Characters whose level is asked for. */
  levels: number[]
  caps: number[]
  folds: LevelFold[]
  /** Gates that are not live; what a live one asks for is asked for. */
  gates: number[]
  sources: number[]
}

/** One comparison, or cost, of a gate. */
export interface AskedPart {
  asked: Asked
  range: Ranged<Bounds>
}

/** A requirement made ready to be asked what it can come to, and what each part of it rests on. */
export interface AskedRequirement {
  range: Ranged<Bounds>
  comparisons: AskedPart[]
  /** What is asked for outside of comparisons. */
  apart: Asked
}

const known = new WeakMap<GameRequirement, AskedRequirement>()
const knownIn = new WeakMap<Game, WeakMap<GameRequirement, AskedRequirement>>()

export function askedBy(game: Game, { requires }: GameItem): AskedRequirement {
  // What a live gate asks for may change while what names it stays as it is.
  const namesLive = requires.reads.gates.some((g) => game.gates[g]!.live)
  const within = namesLive ? remembered(knownIn, game, () => new WeakMap<GameRequirement, AskedRequirement>()) : known
  return remembered(within, requires, () => made(game, requires))
}

function made(game: Game, { node, comparisons }: GameRequirement): AskedRequirement {
  const resolve = (named: Named) => rangeOf(game, named)
  return {
    range: node ? prepareRange(node, resolve) : () => always,
    comparisons: comparisons.map(({ op, leftNode: left, rightNode: right }) => {
      const whole: Node = { type: 'binary', op, left, right, from: left.from, to: right.to }
      return { asked: askedIn(game, [left, right], () => false), range: prepareRange(whole, resolve) }
    }),
    apart: askedIn(game, node ? [node] : [], isComparison),
  }
}

/** What a cost rests on. */
export function askedByCost(tally: number): Asked {
  return { ...nothing(), tallies: [tally] }
}

const always: Range = { low: 1, high: 1 }

function nothing(): Asked {
  return { tallies: [], levels: [], caps: [], folds: [], gates: [], sources: [] }
}

/** What is asked for in some nodes, but for those that are left out; `asked`: is added to. */
function askedIn(game: Game, nodes: readonly Node[], isLeftOut: (node: Node) => boolean, asked = nothing()): Asked {
  for (const node of nodes) {
    if (isLeftOut(node)) continue
    if (isNamed(node)) add(game, asked, meaningIn(game, node))
    else askedIn(game, children(node), isLeftOut, asked)
  }
  return asked
}

function add(game: Game, asked: Asked, { of, index }: Meaning): void {
  if (isLevelFold(of)) asked.folds.push(of)
  else if (of === 'open') addGate(game, asked, index)
  else if (of !== 'visited') asked[askedLists[of]].push(index)
}

const askedLists = { tally: 'tallies', level: 'levels', cap: 'caps', taken: 'sources' } as const

function addGate(game: Game, asked: Asked, g: number): void {
  const { live, requires, error } = game.gates[g]!
  // One that is in error is never open: those that name each other in a ring are.
  if (error) return
  if (!live) asked.gates.push(g)
  else if (requires.node) askedIn(game, [requires.node], () => false, asked)
}

/** What a name, or a function of a name, can come to within bounds. */
function rangeOf(game: Game, node: Named): Ranged<Bounds> {
  const { of, index } = meaningIn(game, node)
  return isLevelFold(of) ? ({ low, high }) => ({ low: foldedLevels(of, low), high: foldedLevels(of, high) }) : ranges[of](game, index)
}

const ranges: Record<AskedOfOne, (game: Game, index: number) => Ranged<Bounds>> = {
  tally: (_, t) => ({ low, high }) => ({ low: low.tallies[t]! / unitsPerOne, high: high.tallies[t]! / unitsPerOne }),
  level: (_, c) => ({ low, high }) => ({ low: low.level[c]!, high: high.level[c]! }),
  cap: (game, c) => ({ low, high }) => ({ low: limitOf(game, low, c), high: limitOf(game, high, c) }),
  open: (_, g) => (bounds) => {
    const gate: GameGate = bounds.game.gates[g]!
    if (!gate.live) return { low: bounds.low.opened[g]!, high: bounds.high.opened[g]! }
    return outcomeRanges[bounds.truth(gate)]
  },
  visited: (_, p) => ({ low }) => ({ low: low.visited[p]!, high: low.visited[p]! }),
  taken: (_, s) => ({ low, high }) => ({ low: low.taken[s]!, high: high.taken[s]! }),
}

const outcomeRanges: Record<'yes' | 'no' | 'maybe', Range> = { yes: always, no: { low: 0, high: 0 }, maybe: { low: 0, high: 1 } }
