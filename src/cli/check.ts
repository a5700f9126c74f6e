import { type Command, InvalidArgumentError, Option } from 'commander'
import { missingOf } from '../core/check/asked-for.ts'
import { check } from '../core/check/check.ts'
import type { CheckOutcome } from '../core/check/result.ts'
import { junitOf } from '../core/exchange/junit.ts'
import { fileReport, type FileReport, type GateCase } from '../core/exchange/report.ts'
import { sarifOf } from '../core/exchange/sarif.ts'
import type { Records } from '../core/plan/records.ts'
import { checkText } from './check-text.ts'
import { badFile, faultLine, readFile } from './read-file.ts'
import { version } from './version.ts'

/** For so many milliseconds fixes are looked for. */
const patience = 5_000

interface CheckFlags {
  route?: string
  profile?: string
  gate?: string
  format: keyof typeof printers
  failOn: 'fault' | 'risk' | 'never'
  seed: number
}

/** One file as it was checked; `outcome` null where it could not be read. */
interface Checked {
  report: FileReport
  records: Records | null
  outcome: CheckOutcome | null
}

/** How each format prints all files. */
const printers = {
  text: (all: readonly Checked[]) => all.flatMap(({ records, outcome }) => (records && outcome ? [checkText(records, outcome)] : [])).join('\n'),
  json: (all: readonly Checked[]) => all.map(({ outcome }) => `${JSON.stringify(outcome?.result ?? null)}\n`).join(''),
  sarif: (all: readonly Checked[]) => `${JSON.stringify(sarifOf(all.map(({ report }) => report), version), null, 2)}\n`,
  junit: (all: readonly Checked[], flags: CheckFlags) => junitOf(all.map(({ report }) => report), (found) => failsOn(found, flags)),
}

export function addCheckCommand(program: Command): void {
  program
    .command('check')
    .description('check plan files: each gate with its verdict, what the player has and what it needs')
    .argument('<file...>', 'plan files (*.tundrift.json), or - for standard input')
    .option('--route <id>', 'only this route')
    .option('--profile <id>', 'only this kind of player')
    .option('--gate <id>', 'only this gate')
    .addOption(new Option('--format <format>', 'how to print').choices(Object.keys(printers)).default('text'))
    .addOption(new Option('--fail-on <severity>', 'what makes the exit code 1').choices(['fault', 'risk', 'never']).default('fault'))
    .option('--seed <n>', 'seed of what is sampled', wholeNumber, 1)
    .action((files: string[], flags: CheckFlags) => {
      const all = files.map((file) => checkFile(file, flags))
      for (const { report } of all) for (const fault of report.faults) console.error(faultLine(report.file, fault))
      process.stdout.write(printers[flags.format](all, flags))
      process.exitCode = Math.max(...all.map((checked) => exitCode(checked, flags)))
    })
}

export function wholeNumber(text: string): number {
  const n = Number(text)
  if (!Number.isInteger(n) || n < 0) throw new InvalidArgumentError('a whole number, 0 or more, is expected.')
  return n
}

function checkFile(file: string, flags: CheckFlags): Checked {
  const { text, records, faults } = readFile(file)
  const missing = records ? missingId(records, flags) : []
  if (!records || missing.length) return { report: { file, text, faults: [...faults, ...missing], cases: [], findings: [], walks: [] }, records: null, outcome: null }
  const outcome = check(records, { ...flags, sums: flags.format === 'json', lockouts: { now: () => performance.now() }, fixes: within(patience) })
  return { report: fileReport(file, text, records, outcome), records, outcome }
}

/** True for so many milliseconds from the first time it is asked. */
function within(milliseconds: number): () => boolean {
  let started: number | null = null
  return () => performance.now() - (started ??= performance.now()) < milliseconds
}

function missingId(records: Records, flags: CheckFlags): FileReport['faults'] {
  return missingOf(records, flags).map(({ kind, says }) => ({ path: `--${kind}`, code: 'unknown-reference' as const, says }))
}

/** 2 for a file with faults, 1 where a main gate is at fault (`risk`: or any gate at risk) or a walk is not borne out. */
function exitCode({ report }: Checked, flags: CheckFlags): number {
  if (report.faults.length) return badFile
  const isRed = flags.failOn !== 'never' && report.walks.some(({ faults }) => faults.length > 0)
  return isRed || report.cases.some((found) => failsOn(found, flags)) ? 1 : 0
}

function failsOn({ severity, main }: GateCase, { failOn }: CheckFlags): boolean {
  return severity !== null && { never: false, risk: true, fault: main && severity === 'fault' }[failOn]
}
