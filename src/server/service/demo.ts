import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { readPlan } from '../../core/plan/file.ts'
import type { PlanService } from './plan-service.ts'

/** Puts the demo plans into a new installation. Returns how many. */
export async function addDemoPlans(service: PlanService, folder: string): Promise<number> {
  if (!existsSync(folder) || (await service.list()).length > 0) return 0
  const files = readdirSync(folder).filter((file) => file.endsWith('.tundrift.json')).sort()
  for (const file of files) {
    const read = readPlan(readFileSync(join(folder, file), 'utf8'))
    if (!read.ok) throw new Error(`the demo plan ${file} cannot be read`)
    await service.create(read.records)
  }
  return files.length
}
