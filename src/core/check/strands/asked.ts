import { prepareRange, type Range, type Ranged } from '../../language/ranges.ts'
import { functionEntry } from '../../language/operators.ts'
import { children, isComparison, type Node } from '../../language/parse.ts'
import { unitsPerOne } from '../../plan/basics.ts'
import { remembered } from '../../plan/remembered.ts'
import { foldedLevels, levelFolds } from '../../rules/compile-requirement.ts'
import type { Game, GameGate, GameItem, GameRequirement } from '../../rules/game.ts'
import { indexOf } from '../../rules/ids.ts'
import { limitOf } from '../../rules/state.ts'
import type { Bounds } from './bounds.ts'

export type LevelFold = keyof typeof levelFolds

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
  const resolve = (named: Node & { type: 'name' | 'call' }) => rangeOf(game, named)
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
    if (node.type === 'name') addName(game, asked, node.name)
    else if (node.type === 'call' && functionEntry(node.name)?.argument !== 'values') addCall(game, asked, node)
    else askedIn(game, children(node), isLeftOut, asked)
  }
  return asked
}

function addName(game: Game, asked: Asked, name: string): void {
  if (name === 'level') asked.levels.push(0)
  else if (name === 'cap') asked.caps.push(0)
  else asked.tallies.push(indexOf(game, 'tallies', name))
}

function addCall(game: Game, asked: Asked, { name, args }: Node & { type: 'call' }): void {
  const id = args[0]?.type === 'name' ? args[0].name : ''
  if (name === 'level') asked.levels.push(indexOf(game, 'characters', id))
  if (name === 'cap') asked.caps.push(indexOf(game, 'characters', id))
  if (Object.hasOwn(levelFolds, name)) asked.folds.push(name as LevelFold)
  if (name === 'taken') asked.sources.push(indexOf(game, 'sources', id))
  if (name === 'open') addGate(game, asked, indexOf(game, 'gates', id))
}

function addGate(game: Game, asked: Asked, g: number): void {
  const { live, requires, error } = game.gates[g]!
  // One that is in error is never open: those that name each other in a ring are.
  if (error) return
  if (!live) asked.gates.push(g)
  else if (requires.node) askedIn(game, [requires.node], () => false, asked)
}

/** What a name, or a function of a name, can come to within bounds. */
function rangeOf(game: Game, node: Node & { type: 'name' | 'call' }): Ranged<Bounds> {
  if (node.type === 'name') {
    if (node.name === 'level') return levelRange(0)
    if (node.name === 'cap') return capRange(game, 0)
    const t = indexOf(game, 'tallies', node.name)
    return ({ low, high }) => ({ low: low.tallies[t]! / unitsPerOne, high: high.tallies[t]! / unitsPerOne })
  }
  return calls[node.name]!(game, node.args[0]!.type === 'name' ? node.args[0]!.name : '')
}

const levelRange = (c: number): Ranged<Bounds> => ({ low, high }) => ({ low: low.level[c]!, high: high.level[c]! })
const capRange = (game: Game, c: number): Ranged<Bounds> => ({ low, high }) => ({ low: limitOf(game, low, c), high: limitOf(game, high, c) })
const foldRange = (fold: LevelFold) => (): Ranged<Bounds> => ({ low, high }) => ({ low: foldedLevels(fold, low), high: foldedLevels(fold, high) })

const calls: Record<string, (game: Game, id: string) => Ranged<Bounds>> = {
  level: (game, id) => levelRange(indexOf(game, 'characters', id)),
  cap: (game, id) => capRange(game, indexOf(game, 'characters', id)),
  lowest: foldRange('lowest'),
  highest: foldRange('highest'),
  average: foldRange('average'),
  open: (game, id) => {
    const g = indexOf(game, 'gates', id)
    return (bounds) => {
      const gate: GameGate = bounds.game.gates[g]!
      if (!gate.live) return { low: bounds.low.opened[g]!, high: bounds.high.opened[g]! }
      return outcomeRanges[bounds.truth(gate)]
    }
  },
  visited: (game, id) => {
    const p = indexOf(game, 'places', id)
    return ({ low }) => ({ low: low.visited[p]!, high: low.visited[p]! })
  },
  taken: (game, id) => {
    const s = indexOf(game, 'sources', id)
    return ({ low, high }) => ({ low: low.taken[s]!, high: high.taken[s]! })
  },
}

const outcomeRanges: Record<'yes' | 'no' | 'maybe', Range> = { yes: always, no: { low: 0, high: 0 }, maybe: { low: 0, high: 1 } }
