import type { Command } from 'commander'
import { readPlanValue, writePlan } from '../core/plan/file.ts'
import { samplePlan } from '../core/sample/sample-plan.ts'
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
      const read = readPlanValue(samplePlan({ places: count, sources: sources ?? count * 10, gates: gates ?? count * 4, seed }))
      if (!read.ok) throw new Error('the sample is not a valid plan')
      process.stdout.write(writePlan(read.records))
    })
}
