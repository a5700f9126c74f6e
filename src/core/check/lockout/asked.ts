import { constantValue } from '../../language/evaluate.ts'
import { allNodes, isComparison, type Node } from '../../language/parse.ts'
import { toUnits } from '../../rules/compile.ts'
import type { Game, GameItem } from '../../rules/game.ts'

/** Beyond every amount: a comparison that weighs things against each other is bounded by none. */
export const unbounded = 1e15

/** The greatest number that a requirement asks of what `isMeant` finds in it; above it all amounts are alike to it. */
export function greatestAsked(game: Game, { requires }: GameItem, isMeant: (node: Node) => boolean): number {
  if (!requires.node) return 0
  const comparisons = [...allNodes(requires.node)].filter(isComparison)
  const asked = comparisons.filter((comparison) => [...allNodes(comparison)].some(isMeant)).map((comparison) => {
    const [side, number] = constantValue(comparison.right) !== null ? [comparison.left, constantValue(comparison.right)] : [comparison.right, constantValue(comparison.left)]
    return number === null || !isPlainSum(side) || (side.type === 'binary' && canBeNegative(game, side)) ? unbounded : toUnits(Math.min(1e10, Math.abs(number) * partsOf(game, side)))
  })
  const inComparisons = comparisons.flatMap((comparison) => [...allNodes(comparison)])
  const bare = [...allNodes(requires.node)].filter((node) => isMeant(node) && !inComparisons.includes(node))
  // Standing alone it is a truth, for which anything is enough, unless it is reckoned with.
  const isReckoned = bare.length > 0 && [...allNodes(requires.node)].flatMap(reckonedIn).some((node) => [...allNodes(node)].some((part) => bare.includes(part)))
  return Math.max(0, ...asked, isReckoned ? unbounded : 0)
}

/** What a node does arithmetic with: how many of at_least are asked for is a number, too. */
function reckonedIn(node: Node): Node[] {
  if (node.type === 'binary') return '+-*/%^'.includes(node.op) ? [node.left, node.right] : []
  return node.type === 'call' && node.name === 'at_least' ? node.args.slice(0, 1) : []
}

/** Names and functions of names added up, nothing taken off: beyond the number it is held against, each is enough alone. */
function isPlainSum(node: Node): boolean {
  if (node.type === 'binary') return node.op === '+' && isPlainSum(node.left) && isPlainSum(node.right)
  return node.type === 'name' || node.type === 'number' || (node.type === 'call' && node.args.every((arg) => arg.type === 'name'))
}

/** Whether a part of a sum can fall below 0, so that no other is enough alone. */
function canBeNegative(game: Game, side: Node): boolean {
  return [...allNodes(side)].some((node) => node.type === 'name' && game.tallies.some(({ id, min }) => id === node.name && min < 0))
}

/** How many times as much one must have for as much to come of it alone: an average is shared by all characters. */
function partsOf(game: Game, side: Node): number {
  return [...allNodes(side)].some((node) => node.type === 'call' && node.name === 'average') ? game.characters.length : 1
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
