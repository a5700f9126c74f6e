import { Worker as Thread, type TransferListItem } from 'node:worker_threads'

/** A worker as a page has it, on a thread of Node: tests ask the workers of the page themselves. */
export class PageWorker extends EventTarget {
  private readonly thread: Thread

  constructor(url: URL) {
    super()
    this.thread = new Thread(new URL('./worker-thread.mjs', import.meta.url), { workerData: url.href })
    this.thread.on('message', (data) => this.dispatchEvent(new MessageEvent('message', { data })))
    this.thread.on('error', (error) => this.dispatchEvent(Object.assign(new Event('error'), { message: error.message })))
  }

  postMessage(data: unknown, transfer: TransferListItem[] = []): void {
    this.thread.postMessage(data, transfer)
  }

  terminate(): void {
    void this.thread.terminate()
  }
}
