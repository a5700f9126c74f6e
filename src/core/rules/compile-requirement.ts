import { plainArithmetic } from '../language/arithmetic.ts'
import { mentions } from '../language/names.ts'
import { functionEntry } from '../language/operators.ts'
import { constantValue, prepare, type Evaluate } from '../language/evaluate.ts'
import { LanguageError } from '../language/language-error.ts'
import { allNodes, isComparison, parse, textOf, type Node } from '../language/parse.ts'
import { children } from '../language/parse.ts'
import { direction } from '../language/rising.ts'
import { unitsPerOne } from '../plan/basics.ts'
import { labelOf } from '../plan/label-of.ts'
import { isOpen } from './engine.ts'
import type { Game, GameComparison, GameRequirement, GameTruth, Reads } from './game.ts'
import type { PlanIndex } from './plan-index.ts'
import { limitOf, type State } from './state.ts'

type Value = Evaluate<State>
type Named = Node & { type: 'name' | 'call' }

export const emptyRequirement: GameRequirement = { text: '', node: null, holds: () => true, kindest: () => true, direction: 'constant', comparisons: [], truths: () => [], reads: { tallies: [], characters: [], gates: [], places: [], sources: [] } }

/**
 * Makes a requirement whose text and names are right ready to be played. `game` may still be filling:
 * it is read when the requirement is evaluated. Throws LanguageError where it rests on a curve in error.
 */
export function compileRequirement(text: string, index: PlanIndex, game: Game): GameRequirement {
  const node = parse(text)
  if (!node) return { ...emptyRequirement, text }
  const resolve = (named: Named) => resolver(named, index, game)
  const value = prepare(node, plainArithmetic, resolve)
  const someoneJoins = game.characters.some((character) => character.joins !== null)
  return {
    text,
    node,
    holds: (state) => !plainArithmetic.isZero(value(state)),
    kindest: kindestOf(node, (named) => kindestResolver(named, index, game)),
    direction: direction(node, someoneJoins),
    comparisons: [...allNodes(node)].filter(isComparison).sort((a, b) => a.from - b.from).map((c) => compileComparison(c, text, resolve)),
    truths: truthsOf(node, text, resolve),
    reads: readsOf(node, index, game),
  }
}

/** Part by part: a rising one is asked, any other holds. */
function kindestOf(node: Node, resolve: (named: Named) => Value): Evaluate<State, boolean> {
  if (node.type === 'binary' && (node.op === 'and' || node.op === 'or')) {
    const [left, right] = [kindestOf(node.left, resolve), kindestOf(node.right, resolve)]
    return node.op === 'and' ? (state) => left(state) && right(state) : (state) => left(state) || right(state)
  }
  if (node.type === 'call' && node.name === 'at_least') {
    const least = constantValue(node.args[0]!)
    const parts = node.args.slice(1).map((arg) => kindestOf(arg, resolve))
    return (state) => least === null || parts.filter((part) => part(state)).length >= least
  }
  const asked = direction(node, false)
  if (asked !== 'rising' && asked !== 'constant') return () => true
  const value = prepare(node, plainArithmetic, resolve)
  return (state) => !plainArithmetic.isZero(value(state))
}

function kindestResolver(node: Named, index: PlanIndex, game: Game): Value {
  if (node.type === 'name') return resolver(node, index, game)
  switch (node.name) {
    case 'lowest':
      return (state) => bestLowest(game, state)
    case 'average':
      return (state) => bestAverage(game, state)
    case 'open': {
      // A live gate counts as open from its wave on.
      const g = index.indexOf('gate', argumentOf(node))!
      return (state) => state.opened[g]!
    }
    default:
      return resolver(node, index, game)
  }
}

/** Levels of those who are there from the start, and of those who have joined and need not have. */
function cast(game: Game, state: State): { sure: number[]; joined: number[] } {
  const of = (isSure: boolean) => game.characters.flatMap((character, c) => ((character.joins === null) === isSure && state.present[c] ? [state.level[c]!] : []))
  return { sure: of(true), joined: of(false) }
}

function bestLowest(game: Game, state: State): number {
  const { sure, joined } = cast(game, state)
  return sure.length ? Math.min(...sure) : Math.max(0, ...joined)
}

function bestAverage(game: Game, state: State): number {
  const { sure, joined } = cast(game, state)
  const mean = (levels: number[]) => (levels.length ? levels.reduce((sum, l) => sum + l, 0) / levels.length : 0)
  const best = joined.sort((a, b) => b - a)
  return Math.max(...best.map((_, i) => mean([...sure, ...best.slice(0, i + 1)])), mean(sure))
}

const readKinds = { tally: 'tallies', character: 'characters', gate: 'gates', place: 'places', source: 'sources' } as const

function readsOf(node: Node, index: PlanIndex, game: Game): Reads {
  const reads: Reads = { tallies: [], characters: [], gates: [], places: [], sources: [] }
  for (const { kind, id } of mentions(node)) reads[readKinds[kind]].push(index.indexOf(kind, id)!)
  for (const part of allNodes(node)) {
    const isLeader = part.type === 'name' && (part.name === 'level' || part.name === 'cap')
    if (isLeader && game.characters.length) reads.characters.push(0)
    if (part.type === 'call' && functionEntry(part.name)?.argument === 'level') reads.characters.push(...game.characters.keys())
  }
  return reads
}

function compileComparison(node: Node & { type: 'binary' }, text: string, resolve: (named: Named) => Value): GameComparison {
  const isConstant = (side: Node) => [...allNodes(side)].every((part) => part.type !== 'name')
  const constant = isConstant(node.right) ? 'right' : isConstant(node.left) ? 'left' : null
  return {
    text: textOf(node, text),
    op: node.op as GameComparison['op'],
    left: prepare(node.left, plainArithmetic, resolve),
    right: prepare(node.right, plainArithmetic, resolve),
    leftNode: node.left,
    rightNode: node.right,
    constant,
  }
}

function truthsOf(node: Node, text: string, resolve: (named: Named) => Value): () => readonly GameTruth[] {
  let made: GameTruth[] | null = null
  return () => (made ??= joinedParts(node).filter((part) => !isComparison(part) && part.type !== 'number').map((part) => {
    const value = prepare(part, plainArithmetic, resolve)
    return { text: textOf(part, text), holds: (state) => !plainArithmetic.isZero(value(state)) }
  }))
}

/** What `and`, `or` and `at_least` join, in the order written. */
function joinedParts(node: Node): Node[] {
  if (node.type === 'binary' && (node.op === 'and' || node.op === 'or')) return [node.left, node.right].flatMap(joinedParts)
  if (node.type === 'call' && node.name === 'at_least') return node.args.slice(1).flatMap(joinedParts)
  return [node]
}

/** What each name and each function of a name reads from the state. */
function resolver(node: Named, index: PlanIndex, game: Game): Value {
  if (node.type === 'name') {
    if (node.name === 'level') return levelOf(game, 0, node)
    if (node.name === 'cap') return capOf(game, 0)
    const t = index.indexOf('tally', node.name)!
    return (state) => state.tallies[t]! / unitsPerOne
  }
  return calls[node.name]!(node, index, game)
}

const argumentOf = (node: Named): string => {
  const arg = children(node)[0]!
  return arg.type === 'name' ? arg.name : ''
}

const calls: Record<string, (node: Named, index: PlanIndex, game: Game) => Value> = {
  level: (node, index, game) => levelOf(game, index.indexOf('character', argumentOf(node))!, node),
  cap: (node, index, game) => capOf(game, index.indexOf('character', argumentOf(node))!),
  lowest: (node, _, game) => overPresent(game, node, 'lowest'),
  highest: (node, _, game) => overPresent(game, node, 'highest'),
  average: (node, _, game) => overPresent(game, node, 'average'),
  open: (node, index, game) => {
    const g = index.indexOf('gate', argumentOf(node))!
    return (state) => (isOpen(game, state, g) ? 1 : 0)
  },
  visited: (node, index) => {
    const p = index.indexOf('place', argumentOf(node))!
    return (state) => state.visited[p]!
  },
  taken: (node, index) => {
    const s = index.indexOf('source', argumentOf(node))!
    return (state) => state.taken[s]!
  },
}

function sound(game: Game, c: number, node: Node): void {
  const character = game.characters[c]!
  if (!character.curve) throw new LanguageError('in-error', node, { name: `the curve of ${labelOf(character)}` })
}

function levelOf(game: Game, c: number, node: Node): Value {
  sound(game, c, node)
  return (state) => state.level[c]!
}

function capOf(game: Game, c: number): Value {
  return (state) => limitOf(game, state, c)
}

interface LevelFold {
  /** Takes a level more, of the `n`th present, into what there is so far of those before. */
  add: (so: number, level: number, n: number) => number
  /** What all `n` have come to; absent: as it stands. */
  end?: (so: number, n: number) => number
}

/** What is asked of the levels of all who are present; 0 when none is. */
export const levelFolds: Record<'lowest' | 'highest' | 'average', LevelFold> = {
  lowest: { add: (so, level, n) => (n === 1 ? level : Math.min(so, level)) },
  highest: { add: (so, level) => Math.max(so, level) },
  average: { add: (so, level) => so + level, end: (so, n) => so / n },
}

function overPresent(game: Game, node: Node, fold: keyof typeof levelFolds): Value {
  game.characters.forEach((_, c) => sound(game, c, node))
  return (state) => foldedLevels(fold, state)
}

/** What the levels of all who are present come to. */
export function foldedLevels(fold: keyof typeof levelFolds, { level, present }: State): number {
  const { add, end } = levelFolds[fold]
  let [so, n] = [0, 0]
  for (let c = 0; c < level.length; c++) if (present[c]) so = add(so, level[c]!, ++n)
  return end && n ? end(so, n) : so
}
