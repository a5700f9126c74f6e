import { findingIds } from '../check/findings/finding-rule.ts'
import { verdictWords } from '../view/verdict-text.ts'
import { jsonLines } from './json-lines.ts'
import type { FileReport, Severity } from './report.ts'

const levels = { fault: 'error', risk: 'warning', note: 'note' } as const satisfies Record<Severity | 'note', string>

const rules = [
  { id: 'gate-sealed', shortDescription: { text: `A gate is sealed: ${verdictWords.sealed.means}.` } },
  { id: 'gate-short', shortDescription: { text: `A gate is short: ${verdictWords.short.means}.` } },
  { id: 'gate-depends', shortDescription: { text: `A gate depends: ${verdictWords.depends.means}.` } },
  { id: 'walk', shortDescription: { text: 'A walk that the plan keeps is not borne out by it.' } },
  { id: 'plan-fault', shortDescription: { text: 'Something in the plan file is wrong.' } },
  ...findingIds.filter((id) => !id.startsWith('gate-')).map((id) => ({ id, shortDescription: { text: `${id.replaceAll('-', ' ')} (docs/checks.md 4)` } })),
]

/** Reports as SARIF 2.1.0, each result at its line in the plan file. */
export function sarifOf(reports: readonly FileReport[], version: string): object {
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [{
      tool: { driver: { name: 'Tundrift', version, rules } },
      columnKind: 'utf16CodeUnits',
      artifacts: reports.map(({ file }) => ({ location: { uri: uriOf(file) } })),
      results: reports.flatMap(resultsOf),
    }],
  }
}

function resultsOf(report: FileReport): object[] {
  const lines = report.text === '' ? new Map<string, number>() : linesOf(report.text)
  const at = (path: string) => [{ physicalLocation: { artifactLocation: { uri: uriOf(report.file) }, region: { startLine: lineAt(lines, path) } } }]
  const faults = report.faults.map(({ path, code, says }) => ({ ruleId: 'plan-fault', level: 'error', message: { text: `${path ? `${path}: ` : ''}${says}` }, locations: at(path), properties: { code } }))
  const gates = report.cases.filter((found) => found.severity !== null).map((found) => ({
    ruleId: `gate-${found.verdict}`,
    level: levels[found.severity!],
    message: { text: `${found.says} (route ${found.route}, ${found.profile})` },
    locations: at(found.path),
    partialFingerprints: { gate: `${found.gate}/${found.route}/${found.profile}` },
  }))
  const findings = report.findings.map(({ id, severity, says, path }) => ({ ruleId: id, level: levels[severity], message: { text: says }, locations: at(path) }))
  const walks = report.walks.flatMap(({ walk, name, faults: found }) => found.map(({ says, path }) => ({ ruleId: 'walk', level: 'error', message: { text: `${name}, ${says}` }, locations: at(path), partialFingerprints: { walk } })))
  return [...faults, ...gates, ...findings, ...walks]
}

function linesOf(text: string): Map<string, number> {
  try {
    JSON.parse(text)
  } catch {
    return new Map()
  }
  return jsonLines(text)
}

/** The line of a path, or of the nearest thing around it that there is. */
function lineAt(lines: ReadonlyMap<string, number>, path: string): number {
  for (let at = path; at !== ''; at = at.replace(/(\.[^.[\]]+|\[\d+\]|^[^.[\]]+)$/, '')) {
    const line = lines.get(at)
    if (line !== undefined) return line
  }
  return 1
}

function uriOf(file: string): string {
  return file === '-' ? 'stdin' : file.split('/').map(encodeURIComponent).join('/')
}
