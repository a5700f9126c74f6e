import { defineStore } from 'pinia'
import { computed, ref, shallowRef, triggerRef } from 'vue'
import { apply, ConflictError, invert, isEmpty, type Conflict, type Diff } from '../../core/change/diff.ts'
import { putOver } from '../../core/change/settle.ts'
import { shapeFault } from '../../core/change/shape.ts'
import { paths, recordsOf, type DoneStep, type PlanDocument, type Step } from '../../core/contract/api.ts'
import type { Records } from '../../core/plan/records.ts'
import { api, OfflineError, ProblemError } from '../api.ts'
import { History } from './history.ts'
import { keepSteps, keptSteps } from './kept-steps.ts'

export type SaveState = 'saved' | 'saving' | 'offline' | 'clash'

/**
 * What has changed of the records: a diff, or everything, then perhaps with the server's text of just these records, which goes to a
 * worker far sooner than they do.
 */
export type Changed = { diff: Diff } | { whole: true; text: string | null }
/** What comes back is done when it has been answered: the server is told of an edit after that, for nobody is to wait for the saving. */
export type Listener = (records: Records, changed: Changed) => Promise<void> | void

/** In milliseconds: until a server that was gone is asked again. */
const retryAfter = 1500

/** In milliseconds: an edit is sent after so long at the latest, and not before what was answered is painted. */
const sendAfter = 250
const paintTime = 32

const after = (ms: number) => new Promise<void>((done) => setTimeout(done, ms))

function randomId(): string {
  return crypto.randomUUID()
}

/** The open plan: its records, the steps on their way to the server, and what can be undone. */
export const usePlanStore = defineStore('plan', () => {
  const id = ref<string | null>(null)
  const records = shallowRef<Records | null>(null)
  const history = shallowRef(new History())
  const pending = shallowRef<Step[]>([])
  const saveState = ref<SaveState>('saved')
  const clash = shallowRef<{ step: Step; conflicts: Conflict[] } | null>(null)
  const notice = ref<string | null>(null)
  const loadError = ref<string | null>(null)
  const removedElsewhere = ref(false)
  /** What was undone or redone last. */
  const turned = shallowRef<Diff | null>(null)

  /** The plan as the server has it, and at which revision. */
  let base: Records | null = null
  let revision = 0
  /** All steps that the server has, as far as they are known here. */
  let done: Pick<Step, 'kind' | 'diff'>[] = []
  /** The sending that is under way, and of which plan. */
  let sending: { of: string; done: Promise<void> } | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let events: EventSource | null = null
  const ownSteps = new Set<string>()
  const listeners = new Set<Listener>()
  const readers = new Set<(text: string) => void>()

  const undoName = computed(() => history.value.undoable.at(-1)?.name ?? null)
  const redoName = computed(() => history.value.redoable.at(-1)?.name ?? null)

  /** Tells all who listen, and gives their answers. */
  function tell(changed: Changed): Promise<void>[] {
    const current = records.value
    return current ? [...listeners].flatMap((listener) => listener(current, changed) ?? []) : []
  }

  function subscribe(listener: Listener): () => void {
    listeners.add(listener)
    if (records.value) void listener(records.value, { whole: true, text: null })
    return () => listeners.delete(listener)
  }

  /** Tells of the server's text of a plan that is opened before its records are made: listeners are told of the same text then. */
  function readAhead(reader: (text: string) => void): () => void {
    readers.add(reader)
    return () => readers.delete(reader)
  }

  async function open(planId: string): Promise<void> {
    if (planId === id.value) end()
    else void close()
    id.value = planId
    loadError.value = null
    const isWanted = () => id.value === planId
    try {
      const found = await api.plan(planId, (text) => {
        if (isWanted()) for (const reader of readers) reader(text)
      })
      if (!isWanted()) return
      take(found)
    } catch (error) {
      if (isWanted()) loadError.value = (error as Error).message
      return
    }
    follow(planId)
    void send()
  }

  function take({ document, text }: { document: PlanDocument; text: string }): void {
    base = recordsOf(document)
    revision = document.revision
    const known = new Set(document.history.map((step) => step.id))
    done = [...document.history]
    setPending(keptSteps(document.id).filter((step) => !known.has(step.id)))
    history.value = History.of([...done, ...pending.value])
    rebuild(text)
  }

  /** The records again from what the server has and what is on its way to it. */
  function rebuild(text: string | null = null): void {
    let next = base!
    for (const step of pending.value) {
      try {
        next = apply(next, step.diff)
      } catch (error) {
        // The server will refuse this step too, and then the user chooses.
        if (!(error instanceof ConflictError)) throw error
      }
    }
    records.value = next
    tell({ whole: true, text: pending.value.length ? null : text })
  }

  /** Takes in what was done elsewhere: only that is told of, where it stands beside what is on its way. */
  function takeIn(diffs: readonly Diff[]): void {
    try {
      for (const diff of diffs) {
        records.value = apply(records.value!, diff)
        tell({ diff })
      }
    } catch (error) {
      if (!(error instanceof ConflictError)) throw error
      rebuild()
    }
  }

  /** Leaves the plan; done when the server has what was typed last, as far as it can. */
  function close(): Promise<void> {
    const rest = id.value && !clash.value ? sendRest(id.value, pending.value) : Promise.resolve()
    end()
    return rest
  }

  function end(): void {
    events?.close()
    events = null
    clearTimeout(timer)
    id.value = null
    records.value = null
    clash.value = null
    notice.value = null
    removedElsewhere.value = false
    pending.value = []
    saveState.value = 'saved'
  }

  function setPending(steps: Step[]): void {
    pending.value = steps
    if (id.value) keepSteps(id.value, steps)
  }

  /** Applies an edit at once and sends it behind; one that would leave what no plan can hold is not done, and it is told why. */
  function edit(diff: Diff): void {
    if (isEmpty(diff) || !records.value) return
    const fault = shapeFault(records.value, diff)
    if (fault) notice.value = `"${diff.name}" was not done. ${fault}.`
    else commit({ id: randomId(), kind: 'do', diff })
  }

  function undo(): void {
    const diff = history.value.undoable.at(-1)
    if (diff) turn('undo', invert(diff))
  }

  function redo(): void {
    const diff = history.value.redoable.at(-1)
    if (diff) turn('redo', diff)
  }

  function turn(kind: 'undo' | 'redo', diff: Diff): void {
    commit({ id: randomId(), kind, diff })
    turned.value = diff
  }

  /** So many steps back (below 0) or forward in the history. */
  function goTo(steps: number): void {
    for (let i = 0; i < Math.abs(steps) && !notice.value; i++) {
      if (steps < 0) undo()
      else redo()
    }
  }

  function commit(step: Step): void {
    if (!records.value) return
    try {
      records.value = apply(records.value, step.diff)
    } catch (error) {
      if (!(error instanceof ConflictError)) throw error
      notice.value = `"${step.diff.name}" can no longer be ${step.kind === 'redo' ? 'redone' : 'undone'}: the same fields have been changed since.`
      return
    }
    notice.value = null
    history.value.add(step)
    triggerRef(history)
    setPending([...pending.value, step])
    if (saveState.value === 'saved') saveState.value = 'saving'
    void sendBehind(tell({ diff: step.diff }))
  }

  /** Sends what waits, once those who were told of it have painted their answers. */
  async function sendBehind(answers: readonly Promise<void>[]): Promise<void> {
    if (answers.length) await Promise.race([Promise.allSettled(answers).then(() => after(paintTime)), after(sendAfter)])
    await send()
  }

  /** Sends what waits, step by step: done when nothing waits any more, or nothing can be sent. */
  function send(): Promise<void> {
    const planId = id.value
    if (sending) return sending.done
    if (!planId || clash.value) return Promise.resolve()
    clearTimeout(timer)
    if (pending.value.length) return (sending = { of: planId, done: sendAll(planId) }).done
    saveState.value = 'saved'
    return Promise.resolve()
  }

  async function sendAll(planId: string): Promise<void> {
    try {
      while (pending.value.length && id.value === planId && !clash.value) await sendFirst(planId)
      if (!clash.value) saveState.value = 'saved'
    } catch (error) {
      if (!(error instanceof OfflineError)) throw error
      // Whether the server is there for a plan that was opened meanwhile is seen when something of it is sent.
      if (id.value === planId) {
        saveState.value = 'offline'
        timer = setTimeout(() => void send(), retryAfter)
      }
    } finally {
      sending = null
    }
    // What waits of a plan that was opened meanwhile.
    if (id.value !== planId) await send()
  }

  /** Sends what still waits of a plan that is left. What the server does not take stays in the browser until the plan is opened again. */
  async function sendRest(planId: string, steps: readonly Step[]): Promise<void> {
    let known = revision
    for (const [i, step] of steps.entries()) {
      try {
        known = (await api.step(planId, { ...step, revision: known })).revision
      } catch (error) {
        if (error instanceof OfflineError || error instanceof ProblemError) return
        throw error
      }
      if (id.value !== planId) keepSteps(planId, steps.slice(i + 1))
    }
  }

  async function sendFirst(planId: string): Promise<void> {
    const step = pending.value[0]!
    if (saveState.value !== 'offline') saveState.value = 'saving'
    ownSteps.add(step.id)
    try {
      const reply = await api.step(planId, { ...step, revision })
      if (id.value !== planId) return
      const missed = reply.missed.filter((other) => other.id !== step.id && other.revision > revision)
      for (const { diff } of missed) base = apply(base!, diff)
      base = apply(base!, step.diff)
      revision = reply.revision
      setPending(pending.value.slice(1))
      done.push(...missed, step)
      if (missed.length) history.value = History.of([...done, ...pending.value])
      takeIn(missed.map(({ diff }) => diff))
      saveState.value = 'saving'
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      // A plan that was left is asked about when it is opened again.
      if (id.value === planId) await refused(planId, step, error)
    }
  }

  async function refused(planId: string, step: Step, { problem, message }: ProblemError): Promise<void> {
    if (problem.status === 409 && problem.conflicts) {
      saveState.value = 'clash'
      clash.value = { step, conflicts: problem.conflicts as Conflict[] }
    } else {
      notice.value = `"${step.diff.name}" was not saved: ${message}`
    }
    // The plan as it stands there, with what still waits; after a clash the user decides before more is sent.
    setPending(pending.value.filter((other) => other.id !== step.id))
    const found = await api.plan(planId)
    if (id.value === planId) take(found)
  }

  /** Ends a clash: with one's own values put over the other's, or by leaving the other's. */
  function settleClash(keepMine: boolean): void {
    const settled = clash.value
    clash.value = null
    saveState.value = 'saved'
    if (!settled || !keepMine || !records.value) return void send()
    edit(putOver(records.value, settled.step.diff, settled.conflicts))
  }

  /** Other windows' steps as they come. */
  function follow(planId: string): void {
    events = new EventSource(paths.events(planId))
    events.addEventListener('step', (event) => {
      const step = JSON.parse((event as MessageEvent<string>).data) as DoneStep
      if (ownSteps.has(step.id) || step.revision <= revision || sending?.of === planId) return
      if (step.revision !== revision + 1) return void reload(planId)
      base = apply(base!, step.diff)
      revision = step.revision
      done.push(step)
      history.value.add(step)
      triggerRef(history)
      takeIn([step.diff])
    })
    events.addEventListener('removed', () => (removedElsewhere.value = true))
    // After a break there may be steps that were missed.
    events.addEventListener('revision', (event) => void catchUp(planId, Number((event as MessageEvent<string>).data)))
  }

  /** The server is there, with the plan at a revision. */
  async function catchUp(planId: string, known: number): Promise<void> {
    if (saveState.value === 'offline') void send()
    else if (!pending.value.length && sending?.of !== planId && known !== revision) await reload(planId)
  }

  async function reload(planId: string): Promise<void> {
    try {
      const found = await api.plan(planId)
      if (id.value === planId && sending?.of !== planId && found.document.revision !== revision) take(found)
    } catch (error) {
      if (!(error instanceof OfflineError)) loadError.value = (error as Error).message
    }
  }

  return { id, records, pending, saveState, clash, notice, loadError, removedElsewhere, turned, history, undoName, redoName, open, close, edit, undo, redo, goTo, subscribe, readAhead, settleClash, send }
})
