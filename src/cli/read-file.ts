import { readFileSync, statSync } from 'node:fs'
import { largestFileBytes, readPlan } from '../core/plan/file.ts'
import type { Records } from '../core/plan/records.ts'
import { allFaults, type Fault } from '../core/rules/all-faults.ts'

/** The exit code for a file that has faults. */
export const badFile = 2

export interface FileRead {
  text: string
  /** null where the file cannot be read as a plan: then `faults` say why. */
  records: Records | null
  faults: Fault[]
}

/** Reads a plan file, or standard input for `-`. */
export function readFile(file: string): FileRead {
  const unread = (says: string): FileRead => ({ text: '', records: null, faults: [{ path: '', code: 'not-json', says }] })
  try {
    if (file !== '-' && statSync(file).size > largestFileBytes) return unread('larger than 50 MB')
    const text = readFileSync(file === '-' ? 0 : file, 'utf8')
    const read = readPlan(text)
    return read.ok ? { text, records: read.records, faults: [] } : { text, records: null, faults: allFaults(read.issues, read.salvaged) }
  } catch (error) {
    return unread((error as Error).message)
  }
}

export function faultLine(file: string, { path, says }: Fault): string {
  return `${file}: ${path ? `${path}: ` : ''}${says}`
}
