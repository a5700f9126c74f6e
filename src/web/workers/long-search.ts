import { transfer, wrap, type Remote } from 'comlink'
import type { SearchWorker } from './search.worker.ts'

/** A worker for what takes long: it is ended when its answer is no longer wanted, and a new one starts with the next question. */
export class LongSearch {
  private worker: Worker | null = null
  private asked = 0

  /** `hand`: gives a port the open plan, from a worker that has it, for a large plan takes long to be copied; without it, no question needs the plan. */
  constructor(private readonly hand?: (port: MessagePort) => void) {}

  /**
   * Asks, after ending what was asked before. Null: it was ended before it answered. `isAsked`: whether this is still what is asked;
   * what a worker told on the way may arrive after it was ended.
   */
  async ask<T>(question: (remote: Remote<SearchWorker>, isAsked: () => boolean) => Promise<T>): Promise<T | null> {
    this.end()
    const own = this.asked
    const worker = new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module' })
    this.worker = worker
    const ended = new Promise<null>((_, failed) => worker.addEventListener('error', (event) => failed(new Error(event.message))))
    // A worker that is ended never answers.
    const stopped = new Promise<null>((done) => (this.stopped = () => done(null)))
    try {
      const remote = wrap<SearchWorker>(worker)
      this.give(remote)
      const answer = await Promise.race([question(remote, () => own === this.asked), ended, stopped])
      return own === this.asked ? answer : null
    } finally {
      if (own === this.asked) this.end()
      else worker.terminate()
    }
  }

  private give(remote: Remote<SearchWorker>): void {
    if (!this.hand) return
    const { port1, port2 } = new MessageChannel()
    this.hand(port1)
    void remote.receive(transfer(port2, [port2]))
  }

  private stopped: () => void = () => {}

  end(): void {
    this.asked++
    this.worker?.terminate()
    this.worker = null
    this.stopped()
  }
}
