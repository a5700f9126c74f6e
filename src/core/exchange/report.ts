import type { CheckOutcome, CheckResult, Finding, GateResult, Verdict } from '../check/result.ts'
import { verdictSeverities } from '../check/findings/gate-verdicts.ts'
import { documentPaths } from '../plan/file.ts'
import { pathText, type Path } from '../plan/issue.ts'
import type { KindName } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import type { Records } from '../plan/records.ts'
import { meaningFaults, type Fault } from '../rules/all-faults.ts'
import { countText, numberText, percentText } from '../view/numbers.ts'

/** What a check of one file says to a team's CI: cases that pass or fail, each with its place in the file. */
export interface FileReport {
  file: string
  text: string
  /** Faults of the document itself, whether it could be read or not. */
  faults: Fault[]
  cases: GateCase[]
  /** Findings that are not a gate's verdict. */
  findings: { id: string; severity: Finding['severity']; says: string; path: string }[]
  /** The walks that the plan keeps. */
  walks: WalkCase[]
}

/** One kept walk: `faults` are empty where the plan bears it out. */
export interface WalkCase {
  walk: string
  name: string
  faults: { says: string; path: string }[]
}

/** One gate for one route and kind of player. */
export interface GateCase {
  route: string
  profile: string
  gate: string
  name: string
  main: boolean
  verdict: Verdict
  severity: Severity | null
  says: string
  /** Path of the gate in the document. */
  path: string
}

export type Severity = 'fault' | 'risk'

export function fileReport(file: string, text: string, records: Records, { result, issues }: CheckOutcome): FileReport {
  const paths = documentPaths(records)
  const gates = new Map([...records.gate.values()].map((gate) => [gate.id, gate]))
  const cases = result.routes.flatMap(({ route, profiles }) =>
    profiles.flatMap(({ profile, gates: results }) =>
      results.map((gate): GateCase => {
        const row = gates.get(gate.gate)!
        const severity = verdictSeverities[gate.verdict][row.role]
        return { route, profile, gate: gate.gate, name: labelOf(row), main: row.role === 'main', verdict: gate.verdict, severity, says: gateSentence(gate, labelOf(row)), path: pathText(paths.get(row.key) ?? []) }
      }),
    ),
  )
  return { file, text, faults: meaningFaults(records, issues), cases, findings: otherFindings(records, paths, result.findings ?? []), walks: walkCases(records, paths, result.walks) }
}

function walkCases(records: Records, paths: ReadonlyMap<string, Path>, walks: CheckResult['walks']): WalkCase[] {
  const rows = new Map([...records.walk.values()].map((row) => [row.id, row]))
  return walks.map(({ walk, faults }) => {
    const row = rows.get(walk)!
    const path = paths.get(row.key) ?? []
    return { walk, name: labelOf(row), faults: faults.map(({ step, moves, says }) => ({ says: `after ${countText(moves, 'move')}: ${says}`, path: pathText([...path, 'steps', step]) })) }
  })
}

function otherFindings(records: Records, paths: ReadonlyMap<string, Path>, findings: readonly Finding[]): FileReport['findings'] {
  return findings.filter((found) => !found.id.startsWith('gate-')).map(({ id, severity, says, item }) => {
    const rows = item.kind === 'plan' ? [] : [...(records[item.kind as KindName] as ReadonlyMap<string, { id: string; key: string }>).values()]
    const row = rows.find((found) => found.id === item.id)
    return { id, severity, says, path: row ? pathText(paths.get(row.key) ?? []) : '' }
  })
}

function gateSentence(gate: GateResult, name: string): string {
  if (gate.error) return `${name} is in error: ${gate.error}`
  const unmet = gate.comparisons.filter((c) => c.holds < 1).map((c) => `${c.text}: has ${c.has ? numberText(c.has.median) : 'nothing'}, needs ${c.need === null ? 'more' : numberText(c.need)}`)
  const how = gate.verdict === 'depends' ? `depends (${percentText(gate.p, false)})` : `is ${gate.verdict.replace('_', ' ')}`
  const due = gate.due ? ` when due at ${gate.due.place}, stop ${gate.due.stop}` : ''
  return `${name} ${how}${due}${unmet.length ? `; ${unmet.join('; ')}` : ''}`
}
