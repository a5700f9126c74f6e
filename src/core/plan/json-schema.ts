import { z } from 'zod'
import { PlanFile } from './file.ts'

/** The JSON Schema (2020-12) of the plan file, made from the schemas that validate it; absent keys have defaults. */
export function planJsonSchema(): Record<string, unknown> {
  const schema = z.toJSONSchema(PlanFile, { target: 'draft-2020-12', io: 'input' })
  return { ...schema, title: 'Tundrift plan', description: 'A progression plan of Tundrift, *.tundrift.json' }
}
