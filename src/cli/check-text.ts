import type { CheckOutcome, CheckResult, ComparisonResult, GateResult, ProfileResult } from '../core/check/result.ts'
import { labelOf } from '../core/plan/label-of.ts'
import type { Records, Row } from '../core/plan/records.ts'
import { countText, marginText, numberText, percentText } from '../core/view/numbers.ts'
import { witnessParts } from '../core/view/witness.ts'

/** A check as lines for a terminal: for each route and kind of player, every gate on the route. */
export function checkText(records: Records, { result }: CheckOutcome): string {
  const gates = new Map([...records.gate.values()].map((gate) => [gate.id, gate]))
  const blocks = result.routes.flatMap(({ route, profiles }) =>
    profiles.map((profile) => [`${route} · ${profile.profile}: ${countsText(profile)}`, ...gateTable(profile, gates)].join('\n')),
  )
  const parts = [labelOf(records.head), ...(blocks.length ? blocks : ['no route to check']), reachText(result, gates), lockoutText(records, result), findingsText(result), walksText(records, result)]
  return parts.filter((part) => part !== '').join('\n\n') + '\n'
}

/** What stays closed in any order of play, and why. */
function reachText({ reach }: CheckResult, gates: ReadonlyMap<string, Named>): string {
  if (!reach) return ''
  const nameOf = (id: string) => labelOf(gates.get(id)!)
  const grind = Object.entries(reach.gates).filter(([, wave]) => wave.wave === null && wave.waveWithRepeats !== null)
  const lines = [
    `In any order of play${reach.exact ? '' : ' (at the kindest)'}: ${reach.closed.length ? `${reach.closed.length} of ${Object.keys(reach.gates).length} gates stay closed` : 'every gate can be opened'}`,
    ...reach.closed.map(({ gate, why, ring }) => `  ${nameOf(gate)}: ${why.join('; ')}${ring ? ` (in a ring: ${[...ring, ring[0]].join(' → ')})` : ''}`),
    ...grind.map(([gate]) => `  ${nameOf(gate)}: only with repeats`),
  ]
  return lines.join('\n')
}

function walksText(records: Records, { walks }: CheckResult): string {
  if (walks.length === 0) return ''
  const names = new Map([...records.walk.values()].map((walk) => [walk.id, labelOf(walk)]))
  const lines = walks.flatMap(({ walk, holds, faults }) => [`  ${holds ? 'holds' : 'FAILS'}  ${names.get(walk)}`, ...faults.map(({ moves, says }) => `         after ${countText(moves, 'move')}: ${says}`)])
  return [`Walks: ${walks.filter(({ holds }) => holds).length} of ${walks.length} borne out`, ...lines].join('\n')
}

function findingsText({ findings }: CheckResult): string {
  if (!findings) return ''
  return [`Findings: ${findings.length ? findings.length : 'none'}`, ...findings.flatMap(({ id, severity, says, fix }) => [`  ${severity.padEnd(5)}  ${id.padEnd(14)}  ${says}`, ...(fix ? [`${' '.repeat(25)}to mend it: ${fix.says}`] : [])])].join('\n')
}

const lockoutWords = { stuck: 'A player who plays freely can get stuck', forcedGrind: 'A player can be forced to grind' } as const
const resultWords = { none: 'no', found: 'yes', undecided: 'not decided' } as const

function lockoutText(records: Records, { lockouts }: CheckResult): string {
  if (!lockouts) return ''
  return Object.entries(lockoutWords).map(([part, words]) => {
    const { result, states, witness, missing } = lockouts[part as keyof typeof lockoutWords]
    const moves = witnessParts(records, witness ?? []).map(({ place, deeds }) => `\n    ${place}${deeds.length ? `: ${deeds.join('; ')}` : ''}`)
    const how = witness === null ? '' : witness.length ? `\n  after ${countText(witness.length, 'move')}:${moves.join('')}` : '\n  from the start'
    return `${words}: ${resultWords[result]} (${countText(states, 'state')} looked at)${how}${missing ? `\n  then: ${missing}` : ''}`
  }).join('\n')
}

function countsText({ gates }: ProfileResult): string {
  const verdicts = ['clear', 'depends', 'short', 'sealed', 'off_route'] as const
  const counts = verdicts.map((verdict) => [verdict, gates.filter((gate) => gate.verdict === verdict).length] as const)
  return counts.filter(([, n]) => n > 0).map(([verdict, n]) => `${n} ${verdict.replace('_', ' ')}`).join(', ')
}

const columns = ['gate', 'verdict', 'due at', 'asks', 'has', 'needs', 'margin']
/** Columns of numbers, set to the right. */
const right = new Set([4, 5, 6])

/** A gate, by its name and by what it asks for. */
type Named = Pick<Row<'gate'>, 'name' | 'id' | 'requires'>

/** A line of the table: its cells, or what is said of the gate above it. */
type Line = string[] | { note: string }

function gateTable({ gates }: ProfileResult, named: ReadonlyMap<string, Named>): string[] {
  const lines = gates.filter((gate) => gate.verdict !== 'off_route').flatMap((gate) => gateLines(gate, named.get(gate.gate)!))
  const rows = [columns, ...lines.filter((line) => Array.isArray(line))]
  const widths = columns.map((_, i) => Math.max(...rows.map((row) => row[i]!.length)))
  const cells = (row: readonly string[]) => '  ' + row.map((cell, i) => (right.has(i) ? cell.padStart(widths[i]!) : cell.padEnd(widths[i]!))).join('  ').trimEnd()
  const asks = cells(columns).indexOf('asks')
  return [cells(columns), ...lines.map((line) => (Array.isArray(line) ? cells(line) : ' '.repeat(asks) + line.note))]
}

function gateLines(gate: GateResult, named: Named): Line[] {
  const verdict = gate.verdict === 'depends' ? `depends ${percentText(gate.p, false)}` : gate.verdict
  const [first, ...more] = gate.comparisons.map(comparisonCells)
  const head = [labelOf(named), verdict, gate.due?.place ?? '']
  const rest = more.map((cells) => ['', '', '', ...cells])
  return [[...head, ...(first ?? ['', '', '', ''])], ...rest, ...notesOf(gate, named).map((note) => ({ note }))]
}

function notesOf({ verdict, comparisons, error, debt: [debt] }: GateResult, { requires }: Named): string[] {
  if (error) return [`in error: ${error}`]
  // What numbers do not show is a condition: a gate that stays closed, a place where nobody was.
  const isUntold = verdict !== 'clear' && requires !== '' && comparisons.every(({ holds }) => holds === 1)
  return [
    ...(isUntold ? [`it asks for ${requires}`] : []),
    ...(verdict === 'short' && debt ? [`by ${debt.untaken + debt.repeats} more of ${debt.source}, ${numberText(debt.minutes)} min`] : []),
  ]
}

function comparisonCells({ text, has, need, margin }: ComparisonResult): string[] {
  return [text, has ? numberText(has.median) : '–', need === null ? '–' : numberText(need), margin === null ? '–' : marginText(margin)]
}
