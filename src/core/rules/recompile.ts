import type { Change } from '../change/diff.ts'
import type { PlanIssue } from '../plan/issue.ts'
import { kindNames } from '../plan/kinds.ts'
import type { ItemRow, Records } from '../plan/records.ts'
import { Compiler, type Compiled } from './compile.ts'
import { changedGame, type Game, type GameError, type GameItem } from './game.ts'
import type { PlanIndex } from './plan-index.ts'
import { everyRow, rowChangesOf, type RowChanges } from './row-changes.ts'
import { columnsAfter } from './source-columns.ts'
import { standAgain } from './stand-again.ts'
import { issuesOfRow } from './validate.ts'

/** Sources and gates by index that were made anew, came, went, or stand elsewhere, while everything else stands as it stood. */
export interface Touched {
  sources: ReadonlySet<number>
  gates: ReadonlySet<number>
}

export interface Recompiled {
  compiled: Compiled
  touched: Touched
}

/** Of what is in the plan no more, and keeps its number. */
const goneError: GameError = { message: 'it is in the plan no more' }

/**
 * What `compile` makes of a plan after changes that touch single sources and gates, made from what it made before: only those are
 * made anew. All that is there keeps its number: what is new is numbered behind it, wherever it stands. null: the changes touch more, and
 * the plan has to be compiled whole. `records`: the plan after them.
 */
export function recompile(before: Compiled, records: Records, changes: readonly Change[]): Recompiled | null {
  const rows = rowChangesOf(before.index, records, changes)
  if (!rows || !leavesNamesAlone(before, rows)) return null
  const index = before.index.with(records, rows)
  const issues = everyRow(rows).reduce<PlanIssue[]>((all, item) => issuesWith(all, index, item), before.issues)
  return made(before, index, issues, rows)
}

/** Whether nobody is told otherwise of a name: nothing that goes is asked after, no text may have waited for what comes, and each row is found by its id. */
function leavesNamesAlone({ game, index, issues }: Compiled, { isShape, added, removed }: RowChanges): boolean {
  if (isShape && issues.some(({ code }) => code === 'duplicate-id')) return false
  if (added.length + removed.length === 0) return true
  if (issues.some(({ code }) => code === 'requirement')) return false
  if (removed.length === 0) return true
  const numbers = (kind: ItemRow['kind']) => new Set(removed.filter((item) => item.kind === kind).map(({ row }) => index.indexOf(kind, row.id)!))
  const [sources, gates] = [numbers('source'), numbers('gate')]
  // What a text in error asks after is not known.
  const mayName = ({ requires: { text, node, reads } }: GameItem) => (text !== '' && node === null) || reads.gates.some((g) => gates.has(g)) || reads.sources.some((s) => sources.has(s))
  return !game.sources.some(mayName) && !game.gates.some(mayName)
}

function made(before: Compiled, index: PlanIndex, issues: PlanIssue[], rows: RowChanges): Recompiled | null {
  const compiler = new Compiler(index, issues)
  const has = (kind: ItemRow['kind']) => everyRow(rows).some((item) => item.kind === kind)
  const { sources, gates } = before.game
  const game = changedGame(before.game, { sources: has('source') ? [...sources] : sources, gates: has('gate') ? [...gates] : gates })
  // What comes may be asked after by what comes with it.
  const origin = rows.added.length ? game : before.origin
  const touched = { sources: new Set<number>(), gates: new Set<number>() }
  const gone: number[] = []
  for (const { kind, row } of rows.removed) {
    const i = before.index.indexOf(kind, row.id)!
    if (kind === 'source') game.sources[i] = { ...game.sources[i]!, error: goneError }
    else {
      game.gates[i] = { ...game.gates[i]!, error: goneError }
      gone.push(i)
    }
    touched[`${kind}s`].add(i)
  }
  for (const item of [...rows.changed, ...rows.added]) {
    const i = index.indexOf(item.kind, item.row.id)!
    const place = item.row.place === null ? null : index.placeWith(item.row.place)
    if (item.kind === 'source') game.sources[i] = compiler.sourceAgain(origin, item.row, place!)
    else game.gates[i] = compiler.gateAgain(origin, item.row, place)
    touched[`${item.kind}s`].add(i)
  }
  if ([...touched.gates].some((g) => isReadAlong(before.game, game, g))) return null
  if ([...touched.sources].some((s) => readsOldGate(game, origin, game.sources[s]!)) || [...touched.gates].some((g) => readsOldGate(game, origin, game.gates[g]!))) return null
  if (touched.sources.size) game.columns = columnsAfter(before.game.columns, game.sources, touched.sources)
  if (gone.length) game.gone = new Set([...game.gone, ...gone])
  if (rows.isShape) standAgain(before, game, index, rows)
  return { compiled: { game, issues, index, origin, isInOrder: before.isInOrder && !rows.isShape }, touched }
}

/** Whether a live gate is read by others, or reads gates itself: then more than itself is another when it is. */
function isReadAlong({ sources, gates }: Game, after: Game, g: number): boolean {
  const both = [gates[g], after.gates[g]].filter((gate) => gate !== undefined)
  if (!both.some(({ live }) => live)) return false
  return both.some(({ requires }) => requires.reads.gates.length > 0) || [...sources, ...gates].some(({ requires }) => requires.reads.gates.includes(g))
}

/** Whether an item asks after a live gate that has been made anew since the plan was compiled whole: it would be told of the old one. */
function readsOldGate(game: Game, origin: Game, { requires }: GameItem): boolean {
  return requires.reads.gates.some((g) => game.gates[g]!.live && game.gates[g] !== origin.gates[g])
}

/** All that is wrong, in the order of validate, with what is wrong with one item found anew. */
function issuesWith(issues: readonly PlanIssue[], index: PlanIndex, { kind, row }: ItemRow): PlanIssue[] {
  const isOwn = (issue: PlanIssue) => issue.item?.kind === kind && issue.item.key === row.key
  const isThere = index.records[kind].has(row.key)
  const [found, kept] = [isThere ? issuesOfRow(index, kind, row) : [], issues.filter((issue) => !isOwn(issue) || (isThere && issue.code === 'duplicate-id'))]
  if (!found.length) return kept
  const rank = rankOf(index)
  const own = rank({ ...found[0]!, item: { kind, key: row.key, id: row.id } })
  const after = kept.findIndex((issue) => rank(issue) > own)
  return after < 0 ? [...kept, ...found] : [...kept.slice(0, after), ...found, ...kept.slice(after)]
}

/** Where an issue stands among all: by kind and order of its record; rings of live gates come last. */
function rankOf(index: PlanIndex): (issue: PlanIssue) => number {
  const place = new Map<string, number>(kindNames.flatMap((kind, k) => index.inOrder(kind).map((row, i) => [`${kind} ${row.key}`, (k + 1) * 1_000_000 + i] as const)))
  return ({ code, item }) => (code === 'live-ring' ? Infinity : (place.get(`${item?.kind} ${item?.key}`) ?? 0))
}
