import { plainArithmetic } from '../language/arithmetic.ts'
import { mentions } from '../language/names.ts'
import { functionEntry } from '../language/operators.ts'
import { constantValue, prepare, type Evaluate } from '../language/evaluate.ts'
import { LanguageError } from '../language/language-error.ts'
import { allNodes, isComparison, parse, textOf, type Node } from '../language/parse.ts'
import { direction } from '../language/rising.ts'
import { unitsPerOne } from '../plan/basics.ts'
import { labelOf } from '../plan/label-of.ts'
import { isOpen } from './engine.ts'
import type { Game, GameComparison, GameRequirement, GameTruth, Reads } from './game.ts'
import { foldedLevels, isLevelFold, type LevelFold } from './level-folds.ts'
import { listOf, meaningOf, type AskedOfOne, type Meaning, type Named } from './meaning.ts'
import type { PlanIndex } from './plan-index.ts'
import { limitOf, type State } from './state.ts'

type Value = Evaluate<State>

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
    comparisons: allNodes(node).filter(isComparison).sort((a, b) => a.from - b.from).map((c) => compileComparison(c, text, resolve)),
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
  const meaning = meaningBy(index, node)
  switch (meaning.of) {
    case 'lowest':
      return (state) => bestLowest(game, state)
    case 'average':
      return (state) => bestAverage(game, state)
    case 'open':
      // A live gate counts as open from its wave on.
      return (state) => state.opened[meaning.index]!
    default:
      return reading(meaning, game, node)
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

function readsOf(node: Node, index: PlanIndex, game: Game): Reads {
  const reads: Reads = { tallies: [], characters: [], gates: [], places: [], sources: [] }
  for (const { kind, id } of mentions(node)) reads[listOf[kind]].push(index.indexOf(kind, id)!)
  for (const part of allNodes(node)) {
    const isLeader = part.type === 'name' && (part.name === 'level' || part.name === 'cap')
    if (isLeader && game.characters.length) reads.characters.push(0)
    if (part.type === 'call' && functionEntry(part.name)?.argument === 'level') reads.characters.push(...game.characters.keys())
  }
  return reads
}

function compileComparison(node: Node & { type: 'binary' }, text: string, resolve: (named: Named) => Value): GameComparison {
  const isConstant = (side: Node) => allNodes(side).every((part) => part.type !== 'name')
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
  return reading(meaningBy(index, node), game, node)
}

function meaningBy(index: PlanIndex, node: Named): Meaning {
  return meaningOf(node, (kind, id) => index.indexOf(kind, id)!)
}

function reading({ of, index }: Meaning, game: Game, node: Node): Value {
  return isLevelFold(of) ? overPresent(game, node, of) : readers[of](game, index, node)
}

const readers: Record<AskedOfOne, (game: Game, index: number, node: Node) => Value> = {
  tally: (_, t) => (state) => state.tallies[t]! / unitsPerOne,
  level: (game, c, node) => {
    sound(game, c, node)
    return (state) => state.level[c]!
  },
  cap: (game, c) => (state) => limitOf(game, state, c),
  open: (game, g) => (state) => (isOpen(game, state, g) ? 1 : 0),
  visited: (_, p) => (state) => state.visited[p]!,
  taken: (_, s) => (state) => state.taken[s]!,
}

function sound(game: Game, c: number, node: Node): void {
  const character = game.characters[c]!
  if (!character.curve) throw new LanguageError('in-error', node, { name: `the curve of ${labelOf(character)}` })
}

function overPresent(game: Game, node: Node, fold: LevelFold): Value {
  game.characters.forEach((_, c) => sound(game, c, node))
  return (state) => foldedLevels(fold, state)
}
