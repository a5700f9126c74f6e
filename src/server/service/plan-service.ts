import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, gt } from 'drizzle-orm'
import { apply, conflictsOf, headKey, type Change, type Diff } from '../../core/change/diff.ts'
import { crowdFault, growth, shapeFaults } from '../../core/change/shape.ts'
import type { DoneStep, PlanDocument, PlanSummary, SendStep, StepReply } from '../../core/contract/api.ts'
import { Head } from '../../core/plan/head.ts'
import { kindNames, type KindName } from '../../core/plan/kinds.ts'
import { emptyRecords, inOrder, type Records } from '../../core/plan/records.ts'
import type { Database, Executor } from '../db/database.ts'
import { RecentPlans } from './recent-plans.ts'
import { countRows, deleteRows, insertRows, readRecords, readRows, readRowsIn, updateRow } from '../db/rows.ts'
import { plans, steps } from '../db/tables.ts'
import { ClashError, InvalidError, NotFoundError } from '../errors.ts'

/** Steps given with a plan, for undo and redo. */
const historyLength = 500

/** Plans whose records are at hand: a large one takes some tens of megabytes. */
const plansAtHand = 3

type Fields = Record<string, unknown>

/** What came of a step; not new: it had been taken before. */
interface Taken {
  reply: StepReply
  done: DoneStep
  isNew: boolean
}

/** Keeps plans: every change is one transaction of rows and a step in the history. */
export class PlanService {
  private readonly recent = new RecentPlans(plansAtHand)

  constructor(private readonly db: Database) {}

  async list(): Promise<PlanSummary[]> {
    const all = await this.db.select().from(plans).orderBy(desc(plans.changedAt), asc(plans.id))
    return Promise.all(all.map(async ({ id, name, revision, changedAt }) => ({
      id,
      name,
      revision,
      changedAt: changedAt.toISOString(),
      places: await countRows(this.db, id, 'place'),
      sources: await countRows(this.db, id, 'source'),
      gates: await countRows(this.db, id, 'gate'),
    })))
  }

  /** Keeps a plan as a new one and gives its id. */
  async create(records: Records): Promise<string> {
    const id = randomUUID()
    await this.db.transaction(async (tx) => {
      await tx.insert(plans).values({ id, name: records.head.name, head: records.head })
      for (const kind of kindNames) await insertRows(tx, id, kind, [...records[kind].values()] as unknown as Fields[])
    })
    this.recent.keep(id, 0, records)
    return id
  }

  async copy(id: string): Promise<string> {
    const records = await this.records(id)
    return this.create({ ...records, head: { ...records.head, name: `${records.head.name} (copy)` } })
  }

  async remove(id: string): Promise<void> {
    const removed = await this.db.delete(plans).where(eq(plans.id, id)).returning({ id: plans.id })
    this.recent.forget(id)
    if (removed.length === 0) throw notFound(id)
  }

  /** Throws NotFoundError where there is no such plan. */
  async revisionOf(id: string): Promise<number> {
    return (await this.plan(this.db, id)).revision
  }

  async records(id: string): Promise<Records> {
    return (await this.current(id)).records
  }

  /** A plan's records, and the revision that they are of. */
  async current(id: string): Promise<{ revision: number; records: Records }> {
    const { revision, records } = await this.db.transaction(async (tx) => {
      const { head, revision } = await this.plan(tx, id)
      return { revision, records: this.recent.at(id, revision) ?? (await readRecords(tx, id, head)) }
    }, { isolationLevel: 'repeatable read' })
    this.recent.keep(id, revision, records)
    return { revision, records }
  }

  async document(id: string): Promise<PlanDocument> {
    const { revision, records } = await this.current(id)
    const { head } = records
    const rows = Object.fromEntries(kindNames.map((kind) => [kind, inOrder(records, kind)])) as unknown as PlanDocument['rows']
    return { id, revision, head, rows, history: await this.history(id) }
  }

  private async history(id: string): Promise<DoneStep[]> {
    const found = await this.db.select().from(steps).where(eq(steps.planId, id)).orderBy(desc(steps.revision)).limit(historyLength)
    return found.reverse().map(toStep)
  }

  /** The steps after a revision, oldest first. */
  async stepsAfter(db: Executor, id: string, revision: number): Promise<DoneStep[]> {
    const found = await db.select().from(steps).where(and(eq(steps.planId, id), gt(steps.revision, revision))).orderBy(asc(steps.revision))
    return found.map(toStep)
  }

  /** The step that led to a revision; null: there is none. */
  async stepAt(id: string, revision: number): Promise<DoneStep | null> {
    const [found] = await this.db.select().from(steps).where(and(eq(steps.planId, id), eq(steps.revision, revision)))
    return found ? toStep(found) : null
  }

  /** Renames a plan as a step of its own. */
  async rename(id: string, name: string): Promise<DoneStep> {
    const { head, revision } = await this.plan(this.db, id)
    const change: Change = { kind: 'head', key: headKey, before: { name: head.name }, after: { name } }
    const step: SendStep = { id: randomUUID(), kind: 'do', revision, diff: { name: `rename the plan to ${name}`, changes: [change] } }
    return (await this.take(id, step)).done
  }

  /**
   * Applies a step: rows and history in one transaction. One that was applied before is answered as it was then;
   * one made on an older revision is taken when nothing it touches has changed since.
   * Throws ClashError with what stands there now, InvalidError where a record would no longer have its right shape.
   */
  async take(id: string, step: SendStep): Promise<Taken> {
    const taken = await this.takeOnce(id, step)
    if (taken.isNew) this.recent.follow(id, taken.done)
    return taken
  }

  private takeOnce(id: string, step: SendStep): Promise<Taken> {
    return this.db.transaction(async (tx) => {
      // One step after another: where several servers share the database, the next one waits here.
      await tx.select({ id: plans.id }).from(plans).where(eq(plans.id, id)).for('update')
      const plan = await this.plan(tx, id)
      const [known] = await tx.select().from(steps).where(and(eq(steps.planId, id), eq(steps.id, step.id)))
      if (known) {
        return { reply: { revision: plan.revision, missed: await this.stepsAfter(tx, id, step.revision) }, done: toStep(known), isNew: false }
      }
      const revision = plan.revision + 1
      const missed = await this.stepsAfter(tx, id, step.revision)
      const head = await this.write(tx, id, plan.head, step.diff)
      const at = new Date()
      await tx.insert(steps).values({ planId: id, revision, id: step.id, kind: step.kind, diff: step.diff, at })
      await tx.update(plans).set({ revision, changedAt: at, head, name: head.name }).where(eq(plans.id, id))
      const done = { id: step.id, kind: step.kind, diff: step.diff, revision, at: at.toISOString() }
      return { reply: { revision, missed }, done, isNew: true }
    })
  }

  private async write(tx: Executor, id: string, head: Head, diff: Diff): Promise<Head> {
    const before = await touched(tx, id, head, diff)
    const conflicts = conflictsOf(before, diff)
    if (conflicts.length) throw new ClashError(conflicts)
    const faults = shapeFaults(before, diff)
    if (faults.length) throw new InvalidError('the change would leave records without their right shape', faults)
    const crowd = await crowdAfter(tx, id, diff)
    if (crowd) throw new InvalidError('the change would leave more than a plan may hold', [{ path: 'changes', message: crowd }])
    const after = apply(before, diff)
    for (const kind of kindNames) {
      const ofKind = diff.changes.filter((change) => change.kind === kind)
      const row = (key: string) => after[kind].get(key) as unknown as Fields
      await deleteRows(tx, id, kind, ofKind.filter((change) => change.after === null).map((change) => change.key))
      await insertRows(tx, id, kind, ofKind.filter((change) => change.before === null).map((change) => row(change.key)))
      for (const change of ofKind) if (change.before && change.after) await updateRow(tx, id, kind, row(change.key))
    }
    return after.head
  }

  private async plan(db: Executor, id: string): Promise<{ head: Head; revision: number }> {
    const [plan] = await db.select().from(plans).where(eq(plans.id, id))
    if (!plan) throw notFound(id)
    return plan
  }
}

function notFound(id: string): NotFoundError {
  return new NotFoundError(`there is no plan ${id}`)
}

/** Only the records that a diff names, as it finds them, the places that it puts rows into, and what places hold that it removes. */
async function touched(tx: Executor, id: string, head: Head, { changes }: Diff): Promise<Records> {
  const records = emptyRecords(head)
  const removed = changes.filter(({ kind, after }) => kind === 'place' && after === null).map(({ key }) => key)
  const into = changes.flatMap(({ after }) => (typeof after?.place === 'string' ? [after.place] : []))
  for (const kind of kindNames) {
    const keys = changes.filter((change) => change.kind === kind).map((change) => change.key)
    if (kind === 'place') keys.push(...into)
    const rows = keys.length ? await readRows(tx, id, kind, [...new Set(keys)]) : new Map<string, Fields>()
    const held = removed.length && (kind === 'source' || kind === 'gate') ? await readRowsIn(tx, id, kind, removed) : []
    Object.assign(records, { [kind]: new Map([...rows, ...held]) })
  }
  return records
}

/** Of what a diff would leave too many, as a sentence. */
async function crowdAfter(tx: Executor, id: string, diff: Diff): Promise<string | null> {
  const found = new Map<KindName, number>()
  for (const kind of growth(diff).keys()) found.set(kind, await countRows(tx, id, kind))
  return crowdFault(diff, (kind) => found.get(kind)!)
}

function toStep({ id, kind, diff, revision, at }: typeof steps.$inferSelect): DoneStep {
  return { id, kind, diff, revision, at: at.toISOString() }
}
