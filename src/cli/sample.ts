import type { Command } from 'commander'
import { readPlanValue, writePlan } from '../core/plan/file.ts'
import { issueText } from '../core/plan/issue-text.ts'
import { pathText } from '../core/plan/issue.ts'
import { kinds } from '../core/plan/kinds.ts'
import { gatesAnywhere, samplePlan } from '../core/sample/sample-plan.ts'
import { wholeNumber } from './check.ts'

export function addSampleCommand(program: Command): void {
  program
    .command('sample')
    .description('print a made-up valid plan of a given size, with every part of the model in it')
    .option('--places <n>', 'places', wholeNumber, 20)
    .option('--sources <n>', 'sources in all (ten a place when absent)', wholeNumber)
    .option('--gates <n>', 'gates in all (four a place when absent)', wholeNumber)
    .option('--seed <n>', 'another seed, another plan', wholeNumber, 1)
    .action(({ places, sources, gates, seed }: { places: number; sources?: number; gates?: number; seed: number }) => {
      const count = Math.max(1, places)
      const read = readPlanValue(samplePlan({ places: count, sources: sources ?? count * 10, gates: gates ?? Math.min(count * 4, kinds.gate.most - gatesAnywhere), seed }))
      if (!read.ok) program.error(`error: there is no such plan: ${[...new Set(read.issues.map((issue) => `${pathText(issue.path)}: ${issueText(issue)}`))].join('; ')}`)
      process.stdout.write(writePlan(read.records))
    })
}
