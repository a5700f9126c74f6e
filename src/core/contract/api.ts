/** The HTTP interface between the web page and the server: paths, and what goes in and comes out. */
import { z } from 'zod'
import { Diff } from '../change/diff.ts'
import { kindNames } from '../plan/kinds.ts'
import { Head } from '../plan/head.ts'
import { emptyRecords, type Records } from '../plan/records.ts'

export const apiRoot = '/api'
export const uploadLimit = '50mb'

export const paths = {
  plans: () => `${apiRoot}/plans`,
  importPlan: () => `${apiRoot}/plans/import`,
  plan: (id: string) => `${apiRoot}/plans/${id}`,
  copy: (id: string) => `${apiRoot}/plans/${id}/copy`,
  file: (id: string) => `${apiRoot}/plans/${id}/file`,
  steps: (id: string) => `${apiRoot}/plans/${id}/steps`,
  events: (id: string) => `${apiRoot}/plans/${id}/events`,
  check: (id: string) => `${apiRoot}/plans/${id}/check`,
  health: () => `${apiRoot}/health`,
}

export const PlanSummary = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.number(),
  changedAt: z.string(),
  places: z.number(),
  sources: z.number(),
  gates: z.number(),
})
export type PlanSummary = z.infer<typeof PlanSummary>

export const planName = z.string().trim().min(1, 'a plan needs a name').max(400)
export const CreatePlan = z.strictObject({ name: planName })
export const RenamePlan = z.strictObject({ name: planName })

/** What of a plan to check: all of it, or one route, one kind of player, one gate; with which seed; whether lock-outs are looked for, and the sums behind gates told. */
export const AskCheck = z.strictObject({
  route: z.string().optional(),
  profile: z.string().optional(),
  gate: z.string().optional(),
  seed: z.coerce.number<string>().int().min(0).optional(),
  lockouts: z.enum(['true', 'false']).optional(),
  sums: z.enum(['true', 'false']).optional(),
})

/** A step is an edit, or the undoing or redoing of one; its id is made by who sends it, so that twice sent is once applied. */
export const StepKind = z.enum(['do', 'undo', 'redo'])
export const Step = z.strictObject({
  id: z.string().min(8).max(64),
  kind: StepKind,
  diff: Diff,
})
export type Step = z.infer<typeof Step>

/** `revision`: the one that the step was made on. */
export const SendStep = Step.extend({ revision: z.int().min(0) })
export type SendStep = z.infer<typeof SendStep>

export const DoneStep = Step.extend({ revision: z.number(), at: z.string() })
export type DoneStep = z.infer<typeof DoneStep>

export const StepReply = z.object({ revision: z.number(), missed: z.array(DoneStep) })
export type StepReply = z.infer<typeof StepReply>

/** Rows are read by the tens of thousands, from the server's own tables: here only that they are rows. */
const anyRows = z.custom<Record<string, unknown>[]>((rows) => Array.isArray(rows) && rows.every((row) => typeof row === 'object' && row !== null && 'key' in row))
/** A plan as it is kept: its head, and the rows of every kind. */
export const PlanDocument = z.object({
  id: z.string(),
  revision: z.number(),
  head: Head,
  rows: z.record(z.enum(kindNames as [string, ...string[]]), anyRows),
  /** The newest steps, oldest first: what can be undone and redone. */
  history: z.array(DoneStep),
})
export type PlanDocument = z.infer<typeof PlanDocument>

/** An error as RFC 9457 has it, with what of it can be acted on. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string().optional(),
  issues: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  conflicts: z.array(z.object({ kind: z.string(), key: z.string(), field: z.string().nullable(), expected: z.unknown(), found: z.unknown() })).optional(),
})
export type Problem = z.infer<typeof Problem>

/** A plan as the server sends it, as records. */
export function recordsOf({ head, rows }: Pick<PlanDocument, 'head' | 'rows'>): Records {
  const records = emptyRecords(head)
  for (const kind of kindNames) Object.assign(records, { [kind]: new Map(((rows[kind] ?? []) as { key: string }[]).map((row) => [row.key, row])) })
  return records
}
