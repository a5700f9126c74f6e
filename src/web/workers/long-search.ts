import { wrap, type Remote } from 'comlink'
import type { SearchWorker } from './search.worker.ts'

/** A worker for what takes long: it is ended when its answer is no longer wanted, and a new one starts with the next question. */
export class LongSearch {
  private worker: Worker | null = null
  private asked = 0

  /** Asks, after ending what was asked before. Null: it was ended before it answered. */
  async ask<T>(question: (remote: Remote<SearchWorker>) => Promise<T>): Promise<T | null> {
    this.end()
    const own = ++this.asked
    const worker = new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module' })
    this.worker = worker
    const ended = new Promise<null>((_, failed) => worker.addEventListener('error', (event) => failed(new Error(event.message))))
    // A worker that is ended never answers.
    const stopped = new Promise<null>((done) => (this.stopped = () => done(null)))
    try {
      const answer = await Promise.race([question(wrap<SearchWorker>(worker)), ended, stopped])
      return own === this.asked ? answer : null
    } finally {
      if (own === this.asked) this.end()
      else worker.terminate()
    }
  }

  private stopped: () => void = () => {}

  end(): void {
    this.worker?.terminate()
    this.worker = null
    this.stopped()
  }
}
