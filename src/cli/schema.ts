import type { Command } from 'commander'
import { planJsonSchema } from '../core/plan/json-schema.ts'

export function addSchemaCommand(program: Command): void {
  program
    .command('schema')
    .description('print the JSON Schema of the plan file')
    .action(() => console.log(JSON.stringify(planJsonSchema(), null, 2)))
}
