import type { NamedKind } from '../language/names.ts'
import { functionEntry } from '../language/operators.ts'
import type { Node } from '../language/parse.ts'
import type { Game } from './game.ts'
import { indexOf } from './ids.ts'
import { isLevelFold, type LevelFold } from './level-folds.ts'

/** A name, or a function of a name. */
export type Named = Node & { type: 'name' | 'call' }

export function isNamed(node: Node): node is Named {
  const argument = node.type === 'call' ? functionEntry(node.name)?.argument : undefined
  return node.type === 'name' || (argument !== undefined && argument !== 'values')
}

/** What can be asked of a game by a name or a function of one (docs/model.md 6): of one thing, or of all levels. */
export type AskedOfOne = 'tally' | 'level' | 'cap' | 'open' | 'visited' | 'taken'
export type Askable = AskedOfOne | LevelFold

/** What a name stands for; `index`: of the tally, character, gate, place or source, −1 where all characters are meant. */
export interface Meaning {
  of: Askable
  index: number
}

/** What a name in a requirement, whose names are right, stands for. `level` and `cap` alone are the leader's. */
export function meaningOf(node: Named, indexOf: (kind: NamedKind, id: string) => number): Meaning {
  if (node.type === 'name') return node.name === 'level' || node.name === 'cap' ? { of: node.name, index: 0 } : { of: 'tally', index: indexOf('tally', node.name) }
  if (isLevelFold(node.name)) return { of: node.name, index: -1 }
  const [arg] = node.args
  return { of: node.name as Askable, index: indexOf(functionEntry(node.name)!.argument as NamedKind, arg?.type === 'name' ? arg.name : '') }
}

/** Where a game has what is named. */
export const listOf = { tally: 'tallies', character: 'characters', gate: 'gates', place: 'places', source: 'sources' } as const satisfies Record<NamedKind, keyof Game>

/** The same in a game that is made. */
export function meaningIn(game: Game, node: Named): Meaning {
  return meaningOf(node, (kind, id) => indexOf(game, listOf[kind], id))
}
