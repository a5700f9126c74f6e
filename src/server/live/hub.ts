import type { Response } from 'express'
import type { DoneStep } from '../../core/contract/api.ts'

/** That a plan has come to a revision; null: that it is gone. */
export interface News {
  planId: string
  revision: number | null
}

/** The open windows of each plan, told of every step as it is taken (server-sent events). */
export class Hub {
  private readonly listeners = new Map<string, Set<Response>>()
  /** Told of what is new, where other servers are to hear of it. */
  beyond: (news: News) => void = () => {}

  listen(planId: string, response: Response): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
    response.write('retry: 1000\n\n')
    const listeners = this.listeners.get(planId) ?? new Set()
    listeners.add(response)
    this.listeners.set(planId, listeners)
    response.on('close', () => listeners.delete(response))
  }

  hasListeners(planId: string): boolean {
    return (this.listeners.get(planId)?.size ?? 0) > 0
  }

  /** Tells a window that has just come, or come back, at which revision the plan is: it may have missed steps. */
  greet(response: Response, revision: number): void {
    response.write(`event: revision\ndata: ${revision}\n\n`)
  }

  /** A step was taken here. */
  tell(planId: string, step: DoneStep): void {
    this.hear(planId, step)
    this.beyond({ planId, revision: step.revision })
  }

  tellRemoved(planId: string): void {
    this.hearRemoved(planId)
    this.beyond({ planId, revision: null })
  }

  /** A step was taken, here or elsewhere. */
  hear(planId: string, step: DoneStep): void {
    for (const response of this.listeners.get(planId) ?? []) response.write(`event: step\ndata: ${JSON.stringify(step)}\n\n`)
  }

  hearRemoved(planId: string): void {
    for (const response of this.listeners.get(planId) ?? []) response.write('event: removed\ndata: {}\n\n')
  }

  /** Ends all connections, so that the server can stop, or windows come back. */
  close(): void {
    for (const listeners of this.listeners.values()) for (const response of listeners) response.end()
  }
}
