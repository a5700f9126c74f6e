import { apply, conflictsOf, type Diff } from '../../core/change/diff.ts'
import type { DoneStep, PlanDocument, SendStep } from '../../core/contract/api.ts'
import { kindNames } from '../../core/plan/kinds.ts'
import type { Records } from '../../core/plan/records.ts'
import { smallPlan } from '../../core/testing/plans.ts'

/** A server in memory that keeps one plan, can be gone, and tells its listener of steps. */
export class FakeServer {
  history: DoneStep[] = []
  isGone = false
  received = 0
  loaded = 0

  constructor(public records: Records = smallPlan()) {}

  get document(): PlanDocument {
    const rows = Object.fromEntries(kindNames.map((kind) => [kind, [...this.records[kind].values()]])) as unknown as PlanDocument['rows']
    return JSON.parse(JSON.stringify({ id: 'one', revision: this.history.length, head: this.records.head, rows, history: this.history })) as PlanDocument
  }

  answer(path: string, body: string | undefined): Response {
    if (this.isGone) throw new TypeError('no connection')
    if (!path.endsWith('/steps')) {
      this.loaded++
      return Response.json(this.document)
    }
    return this.step(JSON.parse(body!) as SendStep)
  }

  private step(step: SendStep): Response {
    this.received++
    const missed = this.history.slice(step.revision)
    if (this.history.some((done) => done.id === step.id)) return Response.json({ revision: this.history.length, missed })
    const conflicts = conflictsOf(this.records, step.diff)
    if (conflicts.length) return Response.json({ type: 'clash', title: 'Changed', status: 409, conflicts }, { status: 409, headers: { 'content-type': 'application/problem+json' } })
    this.take(step)
    return Response.json({ revision: this.history.length, missed })
  }

  take(step: { id: string; kind: DoneStep['kind']; diff: Diff }): DoneStep {
    this.records = apply(this.records, step.diff)
    const done = { ...step, revision: this.history.length + 1, at: '2026-01-01T00:00:00Z' }
    this.history.push(done)
    return done
  }
}

type Listener = (event: { data: string }) => void

/** What a page has of the browser, as far as the store uses it; `remove` gives back what was there before. */
export function installBrowser(server: FakeServer) {
  const kept = new Map<string, string>()
  const listeners = new Map<string, Listener>()
  const globals = globalThis as unknown as Record<string, unknown>
  const before = Object.fromEntries(['localStorage', 'EventSource', 'fetch'].map((name) => [name, globals[name]]))
  globals.localStorage = { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, value: string) => kept.set(key, value), removeItem: (key: string) => kept.delete(key) }
  globals.EventSource = class {
    addEventListener(name: string, listener: Listener) {
      listeners.set(name, listener)
    }
    close() {}
  }
  globals.fetch = async (path: string, init: { body?: string } = {}) => {
    await Promise.resolve()
    return server.answer(path, init.body)
  }
  return {
    kept,
    tell: (step: DoneStep) => listeners.get('step')?.({ data: JSON.stringify(step) }),
    greet: (revision: number) => listeners.get('revision')?.({ data: String(revision) }),
    remove: () => void Object.assign(globals, before),
  }
}
