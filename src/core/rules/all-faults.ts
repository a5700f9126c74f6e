import { documentPaths } from '../plan/file.ts'
import { issueText } from '../plan/issue-text.ts'
import { pathText, type PlanIssue } from '../plan/issue.ts'
import type { Records } from '../plan/records.ts'
import { validate } from './validate.ts'

/** A fault of a plan file in words, with the path in the document. */
export interface Fault {
  path: string
  code: PlanIssue['code']
  says: string
}

/** Faults of meaning, with their paths in the file. */
export function meaningFaults(records: Records, issues: readonly PlanIssue[]): Fault[] {
  const paths = documentPaths(records)
  return issues.map((issue) => {
    const base = issue.item ? (paths.get(issue.item.key) ?? []) : []
    return { path: pathText([...base, ...issue.path]), code: issue.code, says: issueText(issue) }
  })
}

/** All faults of a file that cannot be read: those of its shape, and of what else could be made out (docs/format.md). */
export function allFaults(shape: readonly PlanIssue[], salvaged: Records | null): Fault[] {
  const ofShape = shape.map((issue): Fault => ({ path: pathText(issue.path), code: issue.code, says: issueText(issue) }))
  if (!salvaged) return ofShape
  const bad = ofShape.map((fault) => fault.path)
  const isStandIn = ({ path, says }: Fault) => says.includes('"stand_in"') || bad.some((other) => path.startsWith(other) || other.startsWith(path))
  return [...ofShape, ...meaningFaults(salvaged, validate(salvaged)).filter((fault) => !isStandIn(fault))]
}
