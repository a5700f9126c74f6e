import type { FileReport, GateCase } from './report.ts'

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' }

function escaped(text: string): string {
  // Characters that XML cannot hold at all are left out.
  return text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '').replace(/[&<>"']/g, (letter) => escapes[letter]!)
}

const attributes = (values: Record<string, string | number>) => Object.entries(values).map(([name, value]) => ` ${name}="${escaped(String(value))}"`).join('')

interface Suite {
  name: string
  cases: { name: string; classname: string; failure: string | null; kind: string; skipped: boolean }[]
}

/** Reports as JUnit XML: a suite for each file, route and kind of player, and one for the walks it keeps; a gate that is at fault is a failure, a risk is told but passes. */
export function junitOf(reports: readonly FileReport[], failsOn: (found: GateCase) => boolean): string {
  const suites = reports.flatMap((report) => suitesOf(report, failsOn))
  const count = (of: Suite[], which: (c: Suite['cases'][number]) => boolean) => of.flatMap((suite) => suite.cases).filter(which).length
  const body = suites.map((suite) => [
    `  <testsuite${attributes({ name: suite.name, tests: suite.cases.length, failures: count([suite], (c) => c.failure !== null), errors: 0, skipped: count([suite], (c) => c.skipped) })}>`,
    ...suite.cases.map(caseXml),
    '  </testsuite>',
  ].join('\n'))
  const totals = attributes({ name: 'Tundrift', tests: count(suites, () => true), failures: count(suites, (c) => c.failure !== null), errors: 0 })
  return ['<?xml version="1.0" encoding="UTF-8"?>', `<testsuites${totals}>`, ...body, '</testsuites>', ''].join('\n')
}

function caseXml({ name, classname, failure, kind, skipped }: Suite['cases'][number]): string {
  const open = `    <testcase${attributes({ name, classname })}`
  if (failure !== null) return `${open}><failure${attributes({ message: failure, type: kind })}>${escaped(failure)}</failure></testcase>`
  return skipped ? `${open}><skipped/></testcase>` : `${open}/>`
}

function suitesOf(report: FileReport, failsOn: (found: GateCase) => boolean): Suite[] {
  const faults = report.faults.map(({ path, code, says }) => ({ name: path || 'the file', classname: report.file, failure: says, kind: code, skipped: false }))
  const document: Suite = { name: `${report.file}: the plan`, cases: faults.length ? faults : [{ name: 'the plan is sound', classname: report.file, failure: null, kind: '', skipped: false }] }
  const groups = new Map<string, Suite>()
  for (const found of report.cases) {
    const name = `${report.file}: ${found.route}, ${found.profile}`
    const suite = groups.get(name) ?? { name, cases: [] }
    suite.cases.push({ name: found.name, classname: `${found.route}.${found.profile}`, failure: failsOn(found) ? found.says : null, kind: found.verdict, skipped: found.verdict === 'off_route' })
    groups.set(name, suite)
  }
  const walks: Suite = { name: `${report.file}: walks`, cases: report.walks.map(({ walk, name, faults }) => ({ name, classname: `walks.${walk}`, failure: faults.length ? faults.map(({ says }) => says).join('; ') : null, kind: 'walk', skipped: false })) }
  return [document, ...groups.values(), ...(walks.cases.length ? [walks] : [])]
}
