import type { CheckOutcome, ComparisonResult, GateResult, ProfileResult } from '../core/check/result.ts'
import type { Records } from '../core/plan/records.ts'
import { marginText, numberText, percentText } from '../core/view/numbers.ts'

/** A check as lines for a terminal: for each route and kind of player, every gate on the route. */
export function checkText(records: Records, { result }: CheckOutcome): string {
  const names = new Map([...records.gate.values()].map((gate) => [gate.id, gate.name || gate.id]))
  const blocks = result.routes.flatMap(({ route, profiles }) =>
    profiles.map((profile) => [`${route} · ${profile.profile}: ${countsText(profile)}`, ...gateTable(profile, names)].join('\n')),
  )
  return [records.head.name || records.head.id, ...(blocks.length ? blocks : ['no route to check'])].join('\n\n') + '\n'
}

function countsText({ gates }: ProfileResult): string {
  const verdicts = ['clear', 'depends', 'short', 'sealed', 'off_route'] as const
  const counts = verdicts.map((verdict) => [verdict, gates.filter((gate) => gate.verdict === verdict).length] as const)
  return counts.filter(([, n]) => n > 0).map(([verdict, n]) => `${n} ${verdict.replace('_', ' ')}`).join(', ')
}

const columns = ['gate', 'verdict', 'due at', 'asks', 'has', 'needs', 'margin']
/** Columns of numbers, set to the right. */
const right = new Set([4, 5, 6])

function gateTable({ gates }: ProfileResult, names: ReadonlyMap<string, string>): string[] {
  const rows = gates.filter((gate) => gate.verdict !== 'off_route').flatMap((gate) => gateRows(gate, names.get(gate.gate)!))
  const widths = columns.map((column, i) => Math.max(column.length, ...rows.map((row) => row[i]!.length)))
  const line = (row: string[]) => '  ' + row.map((cell, i) => (right.has(i) ? cell.padStart(widths[i]!) : cell.padEnd(widths[i]!))).join('  ').trimEnd()
  return [line(columns), ...rows.map(line)]
}

function gateRows(gate: GateResult, name: string): string[][] {
  const verdict = gate.verdict === 'depends' ? `depends ${percentText(gate.p)}` : gate.verdict
  const [first, ...more] = gate.comparisons.map(comparisonCells)
  const head = [name, verdict, gate.due?.place ?? '']
  const rest = more.map((cells) => ['', '', '', ...cells])
  const error = gate.error ? [['', '', '', `in error: ${gate.error}`, '', '', '']] : []
  const debt = gate.debt.slice(0, 1).map((d) => ['', '', '', `by ${d.untaken + d.repeats} more of ${d.source}, ${numberText(d.minutes)} min`, '', '', ''])
  return [[...head, ...(first ?? ['', '', '', ''])], ...rest, ...error, ...(gate.verdict === 'short' ? debt : [])]
}

function comparisonCells({ text, has, need, margin }: ComparisonResult): string[] {
  return [text, has ? numberText(has.median) : '–', need === null ? '–' : numberText(need), margin === null ? '–' : marginText(margin)]
}
