import { constantValue } from '../../language/evaluate.ts'
import { allNodes, isComparison, type Node } from '../../language/parse.ts'
import { print } from '../../language/print.ts'
import { fromUnits, toUnits } from '../../rules/compile.ts'
import { everHeld } from './ever-held.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { indexOf } from '../../rules/ids.ts'
import { isNamed, meaningIn } from '../../rules/meaning.ts'

/** Beyond every amount: a comparison that weighs things against each other is bounded by none. */
export const unbounded = 1e15

/** The greatest number that a requirement asks of what `isMeant` finds in it; above it all amounts are alike to it. */
export function greatestAsked(game: Game, { requires }: GameItem, isMeant: (node: Node) => boolean): number {
  if (!requires.node) return 0
  const comparisons = allNodes(requires.node).filter(isComparison)
  const asked = comparisons.filter((comparison) => allNodes(comparison).some(isMeant)).map((comparison) => askedIn(game, comparison, isMeant))
  const inComparisons = comparisons.flatMap((comparison) => allNodes(comparison))
  const bare = allNodes(requires.node).filter((node) => isMeant(node) && !inComparisons.includes(node))
  // Standing alone it is a truth, for which anything is enough, unless it is reckoned with.
  const isReckoned = bare.length > 0 && allNodes(requires.node).flatMap(reckonedIn).some((node) => allNodes(node).some((part) => bare.includes(part)))
  return Math.max(0, ...asked, isReckoned ? unbounded : 0)
}

/** The same of one comparison: beyond it, one part alone tips the scales, whatever the others are. */
function askedIn(game: Game, { left, right }: Node & { type: 'binary' }, isMeant: (node: Node) => boolean): number {
  const [one, other] = [weigh(left, 1), weigh(right, -1)]
  if (!one || !other) return unbounded
  const weights = new Map<string, { node: Node; weight: number }>()
  let number = 0
  for (const { node, weight } of [...one, ...other]) {
    if (node) weights.set(print(node), { node, weight: (weights.get(print(node))?.weight ?? 0) + weight })
    else number += weight
  }
  const parts = [...weights.values()].filter(({ weight }) => weight !== 0)
  const isOneSided = parts.every(({ weight }) => Math.sign(weight) === Math.sign(parts[0]!.weight)) && (parts.length < 2 || !parts.some(({ node }) => canBeNegative(game, node)))
  const meant = parts.filter(({ node }) => allNodes(node).some(isMeant))
  return Math.max(0, ...meant.map((part) => {
    // Where others can weigh against it, it tips the scales alone past all that they can ever weigh.
    const against = isOneSided ? 0 : parts.reduce((sum, other) => (other === part ? sum : sum + Math.abs(other.weight) * greatestOf(game, other.node)), 0)
    const enough = ((Math.abs(number) + against) / Math.abs(part.weight)) * sharedBy(game, part.node)
    return Number.isFinite(against) ? toUnits(Math.min(1e10, enough)) : unbounded
  }))
}

interface Weighed {
  /** A name or a function of names; null: a number, which is the weight. */
  node: Node | null
  weight: number
}

/** A side of a comparison as a sum of names, each so many times; null where it is none. */
function weigh(node: Node, times: number): Weighed[] | null {
  const value = constantValue(node)
  if (value !== null) return [{ node: null, weight: value * times }]
  switch (node.type) {
    case 'name':
      return [{ node, weight: times }]
    case 'call':
      return node.args.every((arg) => arg.type === 'name') ? [{ node, weight: times }] : null
    case 'minus':
      return weigh(node.of, -times)
    case 'binary':
      return weighBinary(node, times)
    default:
      return null
  }
}

function weighBinary({ op, left, right }: Node & { type: 'binary' }, times: number): Weighed[] | null {
  const [by, other] = [constantValue(right), constantValue(left)]
  if (op === '*' && by !== null) return weigh(left, times * by)
  if (op === '*' && other !== null) return weigh(right, times * other)
  if (op === '/' && by) return weigh(left, times / by)
  if (op !== '+' && op !== '-') return null
  const [first, second] = [weigh(left, times), weigh(right, op === '+' ? times : -times)]
  return first && second && [...first, ...second]
}

/** What a node does arithmetic with: how many of at_least are asked for is a number, too. */
function reckonedIn(node: Node): Node[] {
  if (node.type === 'binary') return '+-*/%^'.includes(node.op) ? [node.left, node.right] : []
  return node.type === 'call' && node.name === 'at_least' ? node.args.slice(0, 1) : []
}

/** The furthest from 0 that something asked for can ever be; Infinity where nothing bounds it. */
function greatestOf(game: Game, asked: Node): number {
  const values = asked.type === 'call' ? asked.args : null
  if (!isNamed(asked)) return values ? Math.max(...values.map((arg) => greatestOf(game, arg))) : Infinity
  const { of, index } = meaningIn(game, asked)
  switch (of) {
    case 'tally': {
      const { least, most } = everHeld(game)[index]!
      return fromUnits(Math.max(Math.abs(least), Math.abs(most)))
    }
    case 'open':
    case 'visited':
      return 1
    case 'taken':
      return game.sources[index]!.respawns ? Infinity : game.sources[index]!.count
    case 'level':
    case 'cap':
      return highestOf(game.characters[index]!)
    default:
      return Math.max(...game.characters.map(highestOf))
  }
}

const highestOf = ({ curve }: Game['characters'][number]) => curve?.maxLevel ?? Infinity

/** Whether something asked for can fall below 0. */
function canBeNegative(game: Game, asked: Node): boolean {
  return allNodes(asked).some((node) => node.type === 'name' && (game.tallies[indexOf(game, 'tallies', node.name)]?.min ?? 0) < 0)
}

/** How many times as much one must have for as much to come of it alone: an average is shared by all characters. */
function sharedBy(game: Game, asked: Node): number {
  return asked.type === 'call' && asked.name === 'average' ? game.characters.length : 1
}

/** By source, what asks how many units of it were taken. */
export function askersOfUnits(game: Game): Map<number, GameItem[]> {
  const asking = new Map<number, GameItem[]>()
  for (const item of [...game.gates, ...game.sources]) {
    for (const s of new Set(item.requires.reads.sources)) asking.set(s, [...(asking.get(s) ?? []), item])
  }
  return asking
}

export function unitsAsked(game: Game, s: number, asking: readonly GameItem[]): number {
  const isMeant = (node: Node) => node.type === 'call' && node.name === 'taken' && node.args[0]?.type === 'name' && node.args[0].name === game.sources[s]!.id
  const most = Math.max(0, ...asking.map((item) => greatestAsked(game, item, isMeant)))
  return asking.length === 0 ? 0 : Math.min(1e6, Math.ceil(most / toUnits(1)) + 1)
}

/** The greatest level that a requirement asks of anybody; Infinity where that cannot be told. */
export function levelAsked(game: Game, item: GameItem): number {
  const names = new Set(['level', 'cap', 'highest', 'lowest', 'average'])
  const most = greatestAsked(game, item, (node) => (node.type === 'name' || node.type === 'call') && names.has(node.name))
  return most >= unbounded ? Infinity : most / toUnits(1) + 1
}
