import type { Response } from 'express'
import type { DoneStep } from '../../core/contract/api.ts'

/** The open windows of each plan, told of every step as it is taken (server-sent events). */
export class Hub {
  private readonly listeners = new Map<string, Set<Response>>()

  listen(planId: string, response: Response): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
    response.write('retry: 1000\n\n')
    const listeners = this.listeners.get(planId) ?? new Set()
    listeners.add(response)
    this.listeners.set(planId, listeners)
    response.on('close', () => listeners.delete(response))
  }

  /** Tells a window that has just come, or come back, at which revision the plan is: it may have missed steps. */
  greet(response: Response, revision: number): void {
    response.write(`event: revision\ndata: ${revision}\n\n`)
  }

  tell(planId: string, step: DoneStep): void {
    for (const response of this.listeners.get(planId) ?? []) response.write(`event: step\ndata: ${JSON.stringify(step)}\n\n`)
  }

  tellRemoved(planId: string): void {
    for (const response of this.listeners.get(planId) ?? []) response.write('event: removed\ndata: {}\n\n')
  }

  /** Ends all connections, so that the server can stop. */
  close(): void {
    for (const listeners of this.listeners.values()) for (const response of listeners) response.end()
  }
}
