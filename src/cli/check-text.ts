import type { CheckOutcome, CheckResult, ComparisonResult, GateResult, ProfileResult } from '../core/check/result.ts'
import { labelOf } from '../core/plan/label-of.ts'
import type { Records } from '../core/plan/records.ts'
import { countText, marginText, numberText, percentText } from '../core/view/numbers.ts'
import { witnessParts } from '../core/view/witness.ts'

/** A check as lines for a terminal: for each route and kind of player, every gate on the route. */
export function checkText(records: Records, { result }: CheckOutcome): string {
  const names = new Map([...records.gate.values()].map((gate) => [gate.id, labelOf(gate)]))
  const blocks = result.routes.flatMap(({ route, profiles }) =>
    profiles.map((profile) => [`${route} · ${profile.profile}: ${countsText(profile)}`, ...gateTable(profile, names)].join('\n')),
  )
  const parts = [labelOf(records.head), ...(blocks.length ? blocks : ['no route to check']), reachText(result, names), lockoutText(records, result), findingsText(result), walksText(records, result)]
  return parts.filter((part) => part !== '').join('\n\n') + '\n'
}

/** What stays closed in any order of play, and why. */
function reachText({ reach }: CheckResult, names: ReadonlyMap<string, string>): string {
  if (!reach) return ''
  const grind = Object.entries(reach.gates).filter(([, wave]) => wave.wave === null && wave.waveWithRepeats !== null)
  const lines = [
    `In any order of play${reach.exact ? '' : ' (at the kindest)'}: ${reach.closed.length ? `${reach.closed.length} of ${Object.keys(reach.gates).length} gates stay closed` : 'every gate can be opened'}`,
    ...reach.closed.map(({ gate, why, ring }) => `  ${names.get(gate)}: ${why.join('; ')}${ring ? ` (in a ring: ${[...ring, ring[0]].join(' → ')})` : ''}`),
    ...grind.map(([gate]) => `  ${names.get(gate)}: only with repeats`),
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

function gateTable({ gates }: ProfileResult, names: ReadonlyMap<string, string>): string[] {
  const rows = gates.filter((gate) => gate.verdict !== 'off_route').flatMap((gate) => gateRows(gate, names.get(gate.gate)!))
  const widths = columns.map((column, i) => Math.max(column.length, ...rows.map((row) => row[i]!.length)))
  const line = (row: string[]) => '  ' + row.map((cell, i) => (right.has(i) ? cell.padStart(widths[i]!) : cell.padEnd(widths[i]!))).join('  ').trimEnd()
  return [line(columns), ...rows.map(line)]
}

function gateRows(gate: GateResult, name: string): string[][] {
  const verdict = gate.verdict === 'depends' ? `depends ${percentText(gate.p, false)}` : gate.verdict
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
