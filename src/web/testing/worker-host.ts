/** What a worker of the page finds around it in a browser, on a thread of Node. */
import { parentPort, workerData, type TransferListItem } from 'node:worker_threads'
import { PageWorker } from './page-worker.ts'

const port = parentPort!
const heard = new Map<(event: { data: unknown }) => void, (data: unknown) => void>()

Object.defineProperty(globalThis, 'navigator', { value: { hardwareConcurrency: 2 }, configurable: true })
Object.assign(globalThis, {
  self: globalThis,
  Worker: PageWorker,
  postMessage: (data: unknown, transfer?: TransferListItem[]) => port.postMessage(data, transfer),
  addEventListener(type: string, told: (event: { data: unknown }) => void) {
    if (type !== 'message') return
    heard.set(told, (data) => told({ data }))
    port.on('message', heard.get(told)!)
  },
  removeEventListener: (_type: string, told: (event: { data: unknown }) => void) => void (heard.has(told) && port.off('message', heard.get(told)!)),
})

await import(workerData as string)
