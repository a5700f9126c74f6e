import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { Client } from 'pg'
import type { DoneStep } from '../../core/contract/api.ts'
import type { Database } from '../db/database.ts'
import type { Hub, News } from './hub.ts'

/** What servers on one database are told on: the name of the channel. */
const channel = 'tundrift'

const retryAfter = 1_000

/** Reads a step that another server has taken; null: it is not there any more. */
type ReadStep = (planId: string, revision: number) => Promise<DoneStep | null>

/**
 * Tells the servers that share a database of each other's steps, by LISTEN and NOTIFY. A notice only names the step: it is read from
 * the database, as it may be larger than a notice can be.
 */
export class Relay {
  private readonly own = randomUUID()
  private client: Client | null = null
  private isClosed = false

  constructor(
    private readonly url: string,
    private readonly db: Database,
    private readonly hub: Hub,
    private readonly read: ReadStep,
  ) {}

  async start(): Promise<void> {
    const client = new Client({ connectionString: this.url })
    client.on('error', () => this.lost(client))
    client.on('end', () => this.lost(client))
    client.on('notification', ({ payload }) => void this.heard(JSON.parse(payload!) as News & { from: string }))
    await client.connect()
    await client.query(`listen ${channel}`)
    // It may have been closed while this was on its way.
    if (this.isClosed) return client.end()
    this.client = client
  }

  /** Tells the others. Who does not hear it is greeted with the revision when it listens again. */
  async tell(news: News): Promise<void> {
    await this.db.execute(sql`select pg_notify(${channel}, ${JSON.stringify({ ...news, from: this.own })})`).catch(() => {})
  }

  async close(): Promise<void> {
    this.isClosed = true
    await this.client?.end()
  }

  private async heard({ from, planId, revision }: News & { from: string }): Promise<void> {
    if (from === this.own) return
    if (revision === null) return this.hub.hearRemoved(planId)
    if (!this.hub.hasListeners(planId)) return
    const step = await this.read(planId, revision).catch(() => null)
    if (step) this.hub.hear(planId, step)
  }

  /** Listens again, and has all windows come back: they may have missed steps, and are told at which revision their plan is. */
  private lost(client: Client): void {
    if (this.isClosed || this.client !== client) return
    this.client = null
    const again = () => {
      if (this.isClosed) return
      this.start().then(() => this.hub.close(), () => setTimeout(again, retryAfter))
    }
    setTimeout(again, retryAfter)
  }
}
