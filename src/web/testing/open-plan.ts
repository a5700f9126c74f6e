import { createPinia, setActivePinia } from 'pinia'
import { watch } from 'vue'
import { setFields } from '../../core/change/edits.ts'
import { byId, type Records } from '../../core/plan/records.ts'
import { useCheckStore } from '../stores/check.ts'
import { usePlanStore } from '../stores/plan.ts'
import { FakeServer, installBrowser } from './fake-server.ts'
import { PageWorker } from './page-worker.ts'

/** Waits until something that the stores say holds. */
export const until = (holds: () => boolean) => new Promise<void>((done) => {
  const stop = watch(holds, (now) => {
    if (!now) return
    queueMicrotask(() => stop())
    done()
  }, { immediate: true, flush: 'sync' })
})

/** A worker that never answers: for what rests on no check. */
class IdleWorker extends EventTarget {
  postMessage(_data: unknown, transfer: readonly MessagePort[] = []): void {
    // A port that nobody listens to would keep Node from ending.
    for (const port of transfer) port.close()
  }
  terminate(): void {}
}

/** A plan as a page has it open: from a server in memory, checked by the page's own workers on threads of Node, or not at all. */
export class OpenPlan {
  private readonly before: { Worker: unknown; window: unknown }
  private readonly threads: PageWorker[] = []
  readonly server: FakeServer
  readonly browser: ReturnType<typeof installBrowser>
  readonly plan: ReturnType<typeof usePlanStore>
  readonly check: ReturnType<typeof useCheckStore>
  private readonly isChecked: boolean

  constructor(records?: Records, checks: 'checked' | 'unchecked' = 'checked') {
    const globals = globalThis as unknown as Record<string, unknown>
    this.before = { Worker: globals.Worker, window: globals.window }
    const { threads } = this
    this.isChecked = checks === 'checked'
    globals.window = new EventTarget()
    globals.Worker = checks === 'unchecked' ? IdleWorker : class extends PageWorker {
      constructor(url: URL) {
        super(url)
        threads.push(this)
      }
    }
    this.server = new FakeServer(records)
    this.browser = installBrowser(this.server)
    setActivePinia(createPinia())
    this.plan = usePlanStore()
    this.check = useCheckStore()
  }

  /** Opens it, and waits for its verdicts, if it is checked. */
  async open(): Promise<this> {
    await this.plan.open('one')
    if (this.isChecked) await until(() => !this.check.isStale)
    return this
  }

  /** How many workers there are. */
  get workers(): number {
    return this.threads.length
  }

  close(): void {
    void this.plan.close()
    for (const thread of this.threads.splice(0)) thread.terminate()
    this.browser.remove()
    Object.assign(globalThis, this.before)
  }

  key(kind: 'gate' | 'source' | 'place' | 'profile' | 'route', id: string): string {
    return byId(this.plan.records!, kind, id)!.key
  }

  edit(kind: 'gate' | 'source', id: string, fields: object): void {
    this.plan.edit(setFields(this.plan.records!, kind, this.key(kind, id), fields as never, 'an edit'))
  }
}
