import type { Change } from '../change/diff.ts'
import type { PlanIssue } from '../plan/issue.ts'
import { kindNames } from '../plan/kinds.ts'
import type { ItemRow, Records } from '../plan/records.ts'
import { Compiler, type Compiled } from './compile.ts'
import type { Game, GameGate, GameItem } from './game.ts'
import type { PlanIndex } from './plan-index.ts'
import { columnsAfter } from './source-columns.ts'
import { issuesOfRow } from './validate.ts'

/** Sources and gates by index that were made anew, while everything else stands as it stood. */
export interface Touched {
  sources: ReadonlySet<number>
  gates: ReadonlySet<number>
}

export interface Recompiled {
  compiled: Compiled
  touched: Touched
}

/** Fields of a source or gate that bear on itself alone: neither on what others are called nor on where anything stands. */
const own = {
  source: ['name', 'kind', 'pattern', 'role', 'count', 'yields', 'takes', 'requires', 'respawns', 'minutes', 'caps'],
  gate: ['name', 'kind', 'role', 'requires', 'costs', 'due', 'yields', 'caps', 'lockedText', 'minutes'],
} as const satisfies Record<ItemRow['kind'], readonly string[]>

/**
 * What `compile` makes of a plan after changes that touch single sources and gates, made from what it made before: only those are
 * made anew. null: the changes touch more, and the plan has to be compiled whole. `records`: the plan after them.
 */
export function recompile(before: Compiled, records: Records, changes: readonly Change[]): Recompiled | null {
  const items = changes.map((change) => itemChanged(before, records, change))
  if (!items.every((item) => item !== null)) return null
  const index = before.index.with(records, items)
  const issues = items.reduce((all, item) => issuesWith(all, index, item), before.issues)
  return made(before, index, issues, items)
}

/** The record that a change leads to; null where the change touches more than that record. */
function itemChanged({ index }: Compiled, records: Records, { kind, key, before, after }: Change): ItemRow | null {
  if ((kind !== 'source' && kind !== 'gate') || before === null || after === null) return null
  const fields: readonly string[] = own[kind]
  const row = records[kind].get(key)
  if (!row || !Object.keys({ ...before, ...after }).every((field) => fields.includes(field))) return null
  // Where two have one id, the first of them is what is meant by it.
  const isFirst = index.rows[kind][index.indexOf(kind, row.id) ?? -1]?.key === key
  return isFirst ? ({ kind, row } as ItemRow) : null
}

/** Whether a live gate is read by others, or reads gates itself: then more than itself is another when it is. */
function isReadAlong({ sources, gates }: Game, g: number, after: GameGate): boolean {
  const before = gates[g]!
  if (!before.live) return false
  return [before, after].some(({ requires }) => requires.reads.gates.length > 0) || [...sources, ...gates].some(({ requires }) => requires.reads.gates.includes(g))
}

/** Whether an item asks after a live gate that has been made anew since the plan was compiled whole: it would be told of the old one. */
function readsOldGate(game: Game, origin: Game, { requires }: GameItem): boolean {
  return requires.reads.gates.some((g) => game.gates[g]!.live && game.gates[g] !== origin.gates[g])
}

function made(before: Compiled, index: PlanIndex, issues: PlanIssue[], items: readonly ItemRow[]): Recompiled | null {
  const compiler = new Compiler(index, issues)
  const { origin } = before
  const has = (kind: ItemRow['kind']) => items.some((item) => item.kind === kind)
  const { sources, gates } = before.game
  const game = { ...before.game, sources: has('source') ? [...sources] : sources, gates: has('gate') ? [...gates] : gates }
  const touched = { sources: new Set<number>(), gates: new Set<number>() }
  for (const { kind, row } of items) {
    const i = index.indexOf(kind, row.id)!
    if (kind === 'source') game.sources[i] = compiler.sourceAgain(origin, row, game.sources[i]!.place)
    else {
      const gate = compiler.gateAgain(origin, row, game.gates[i]!)
      if (isReadAlong(before.game, i, gate)) return null
      game.gates[i] = gate
    }
    touched[kind === 'source' ? 'sources' : 'gates'].add(i)
  }
  if ([...touched.sources].some((s) => readsOldGate(game, origin, game.sources[s]!)) || [...touched.gates].some((g) => readsOldGate(game, origin, game.gates[g]!))) return null
  if (touched.sources.size) game.columns = columnsAfter(before.game.columns, game.sources, touched.sources)
  return { compiled: { game, issues, index, origin }, touched }
}

/** All that is wrong, in the order of validate, with what is wrong with one item found anew. */
function issuesWith(issues: readonly PlanIssue[], index: PlanIndex, { kind, row }: ItemRow): PlanIssue[] {
  const isOwn = (issue: PlanIssue) => issue.item?.kind === kind && issue.item.key === row.key
  const [found, kept] = [issuesOfRow(index, kind, row), issues.filter((issue) => !isOwn(issue) || issue.code === 'duplicate-id')]
  if (!found.length) return kept
  const rank = rankOf(index)
  const own = rank({ ...found[0]!, item: { kind, key: row.key, id: row.id } })
  const after = kept.findIndex((issue) => rank(issue) > own)
  return after < 0 ? [...kept, ...found] : [...kept.slice(0, after), ...found, ...kept.slice(after)]
}

/** Where an issue stands among all: by kind and order of its record; rings of live gates come last. */
function rankOf({ rows }: PlanIndex): (issue: PlanIssue) => number {
  const place = new Map<string, number>(kindNames.flatMap((kind, k) => rows[kind].map((row, i) => [`${kind} ${row.key}`, (k + 1) * 1_000_000 + i] as const)))
  return ({ code, item }) => (code === 'live-ring' ? Infinity : (place.get(`${item?.kind} ${item?.key}`) ?? 0))
}
