import { wrap, type Remote } from 'comlink'
import type { RecordData } from '../../core/check/route/record.ts'
import type { DrawnBeside, DrawOrder } from '../../core/check/route/route-check.ts'
import { plainRecords, type Records } from '../../core/plan/records.ts'
import type { DrawWorker } from './draw.worker.ts'

/** A worker beside that draws a half of the walks; it is ended when what it draws is no longer wanted. */
export class DrawBeside {
  private worker: Worker | null = null
  private remote: Remote<DrawWorker> | null = null
  private loaded: Records | null = null
  /** Gives up what is being drawn; null: nothing is. */
  private giveUp: (() => void) | null = null

  /** Has walks drawn; whatever is still being drawn for another is given up. */
  order(records: Records, route: string, profile: string, order: DrawOrder): DrawnBeside {
    this.giveUp?.()
    let drawn: RecordData | null | 'failed' = null
    const giveUp = () => {
      drawn = 'failed'
      this.end()
    }
    this.giveUp = giveUp
    const isOver = () => {
      if (this.giveUp === giveUp) this.giveUp = null
    }
    this.draw(records, route, profile, order).then((data) => (drawn = data), () => (drawn = 'failed')).finally(isOver)
    return () => drawn
  }

  private async draw(records: Records, route: string, profile: string, order: DrawOrder): Promise<RecordData> {
    const worker = (this.worker ??= new Worker(new URL('./draw.worker.ts', import.meta.url), { type: 'module' }))
    const remote = (this.remote ??= wrap<DrawWorker>(worker))
    const broken = new Promise<never>((_, failed) => worker.addEventListener('error', (event) => failed(new Error(event.message)), { once: true }))
    if (this.loaded !== records) await Promise.race([remote.load(plainRecords(records)), broken])
    this.loaded = records
    return Promise.race([remote.draw(route, profile, order), broken])
  }

  /** A worker that is ended never answers. */
  private end(): void {
    this.worker?.terminate()
    this.worker = null
    this.remote = null
    this.loaded = null
  }
}
