import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { MessageChannel } from 'node:worker_threads'
import { Piscina } from 'piscina'
import type { CheckProgress } from '../../core/check/check.ts'
import type { CheckOptions } from '../../core/check/result.ts'
import { plainRecords, type Records } from '../../core/plan/records.ts'
import type { CheckTask } from './check-thread.ts'

const fixing = 5_000
const idle = 30_000
/** Megabytes for what was made last: checks make much that is soon gone, and looking through it less often saves them a twentieth. */
const young = 192
/** Checks that may wait for a thread; who comes later is told to. */
const mostWaiting = 16

/** Checks plans in threads of their own, so that the server goes on answering. */
export class CheckService {
  private pool: Piscina | null = null

  /** Threads are only started when a check is asked for, and end when none was for a while. */
  private threads(): Piscina {
    if (this.pool) return this.pool
    const built = fileURLToPath(new URL('./check-thread.js', import.meta.url))
    const isBuilt = existsSync(built)
    const filename = isBuilt ? built : fileURLToPath(new URL('./check-thread.ts', import.meta.url))
    return (this.pool = new Piscina({ filename, minThreads: 0, maxThreads: 2, idleTimeout: idle, maxQueue: mostWaiting, resourceLimits: { maxYoungGenerationSizeMb: young }, ...(!isBuilt && { execArgv: ['--import', 'tsx'] }) }))
  }

  /** Checks a plan; `progress` is told what is done. The document comes as JSON, for it can be long. Aborting `signal` ends the thread that does it, and rejects. */
  async check(records: Records, options: CheckOptions, progress: (progress: CheckProgress) => void, signal: AbortSignal): Promise<Uint8Array> {
    const { port1, port2 } = new MessageChannel()
    port1.on('message', (told: CheckProgress) => progress(told))
    try {
      return (await this.threads().run({ records: plainRecords(records), options, fixing, port: port2 } satisfies CheckTask, { transferList: [port2], signal })) as Uint8Array
    } finally {
      port1.close()
    }
  }

  async close(): Promise<void> {
    await this.pool?.destroy()
    this.pool = null
  }
}
