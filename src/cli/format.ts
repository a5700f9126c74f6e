import { writeFileSync } from 'node:fs'
import type { Command } from 'commander'
import { writePlan } from '../core/plan/file.ts'
import { badFile, faultLine, readFile } from './read-file.ts'

export function addFormatCommand(program: Command): void {
  program
    .command('format')
    .description('write plan files in their canonical form (standard input goes to standard output)')
    .argument('<file...>', 'plan files, or - for standard input')
    .option('--check', 'write nothing; exit with 1 where a file is not in canonical form')
    .action((files: string[], flags: { check?: boolean }) => {
      process.exitCode = Math.max(...files.map((file) => formatFile(file, flags.check ?? false)))
    })
}

function formatFile(file: string, checkOnly: boolean): number {
  const read = readFile(file)
  if (read.records === null) {
    for (const fault of read.faults) console.error(faultLine(file, fault))
    return badFile
  }
  const text = writePlan(read.records)
  if (checkOnly) {
    if (text === read.text) return 0
    console.error(`${file}: not in canonical form`)
    return 1
  }
  if (file === '-') process.stdout.write(text)
  else if (text !== read.text) writeFileSync(file, text)
  return 0
}
