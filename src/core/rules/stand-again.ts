import type { Row } from '../plan/records.ts'
import { guardsAt, sideBySide, type Compiled } from './compile.ts'
import { changedPlace, type Game, type GameGate } from './game.ts'
import type { PlanIndex } from './plan-index.ts'
import { everyRow, type RowChanges } from './row-changes.ts'

/**
 * Has sources and gates of a game stand where they stand now, and guard what they guard: places and passages that this does not touch
 * are those of the game before. `index`: of the plan as it is.
 */
export function standAgain(before: Compiled, game: Game, index: PlanIndex, rows: RowChanges): void {
  game.places = [...game.places]
  game.passages = [...game.passages]
  const all = everyRow(rows)
  const places = all.flatMap(({ kind, row }) => [before.index.records[kind].get(row.key), index.records[kind].get(row.key)].flatMap((one) => (one ? [one.place] : [])))
  for (const key of new Set(places)) fill(game, index, key)
  for (const { kind, row } of all) if (kind === 'gate') guardAgain(before, game, index, row)
}

/** What stands in the place with this key, or anywhere (null), in its order. */
function fill(game: Game, index: PlanIndex, key: string | null): void {
  const items = index.contents.get(key)!.map(({ kind, row }) => ({ kind, i: index.indexOf(kind, row.id)! }))
  if (key === null) {
    game.anywhere = items.map(({ i }) => i)
    return
  }
  const p = index.placeWith(key)
  const contents = items.map(({ kind, i }) => (kind === 'source' ? { source: i, gate: null } : { source: null, gate: i }))
  game.places[p] = changedPlace(game.places[p]!, { contents, items: sideBySide(contents) })
}

/** Takes a gate from what it guarded, and gives it to what it guards: others that guard the same stay in their order. */
function guardAgain(before: Compiled, game: Game, index: PlanIndex, { id }: Row<'gate'>): void {
  const [old, g] = [before.index.indexOf('gate', id), index.indexOf('gate', id)]
  const was = old === undefined ? null : before.game.gates[old]!.guards
  const is = g === undefined ? null : game.gates[g]!.guards
  if (was) setGuards(game, was, guardsAt(game, was).filter((other) => other !== old))
  if (is) setGuards(game, is, [...guardsAt(game, is), g!].sort((a, b) => a - b))
}

function setGuards(game: Game, of: NonNullable<GameGate['guards']>, guards: number[]): void {
  if ('place' in of) game.places[of.place] = changedPlace(game.places[of.place]!, { guards })
  else game.passages[of.passage] = { ...game.passages[of.passage]!, guards }
}
