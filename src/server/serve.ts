import { existsSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { createServer, type Server } from 'node:http'
import { join } from 'node:path'
import { pino } from 'pino'
import { makeApp } from './app.ts'
import type { OpenDatabase } from './db/database.ts'
import { openFolder } from './db/open-folder.ts'
import { openServer } from './db/open-server.ts'
import { Hub } from './live/hub.ts'
import { Relay } from './live/relay.ts'
import { CheckService } from './service/check-service.ts'
import { addDemoPlans } from './service/demo.ts'
import { PlanService } from './service/plan-service.ts'

export interface ServeOptions {
  /** The project's folder: its demo, its built page, its migrations. */
  root: string
  /** Where plans are kept: a folder of this machine, null for memory alone, or the address of a database on a PostgreSQL server. */
  data: { folder: string | null } | { url: string }
  port: number
  logLevel: string
  logFile?: string
}

export interface Running {
  url: string
  /** Stops taking requests, lets those under way end, and closes the data. */
  stop(): Promise<void>
}

/** The host is the machine itself: nothing is served to the network. */
const host = '127.0.0.1'
const portsTried = 20

export async function serve({ root, data, port, logLevel, logFile }: ServeOptions): Promise<Running> {
  const logger = logFile ? pino({ level: logLevel }, pino.destination(logFile)) : pino({ level: logLevel })
  const migrations = [join(root, 'dist/migrations'), join(root, 'src/server/db/migrations')].find((folder) => existsSync(folder))!
  const database = await ('url' in data ? openServer(data.url, migrations) : openFolder({ folder: data.folder, migrations, template: join(root, 'dist/empty-data') }))
  const service = new PlanService(database.db)
  const hub = new Hub()
  const relay = await prepared(database, service, hub, root, data)
  const checks = new CheckService()
  const server = createServer(makeApp({ service, checks, hub, logger, webFolder: join(root, 'dist/web') }))
  try {
    await listen(server, port)
  } catch (error) {
    await relay?.close()
    await database.close()
    throw error
  }
  return {
    url: `http://localhost:${(server.address() as AddressInfo).port}/`,
    async stop() {
      hub.close()
      await checks.close()
      await new Promise<void>((done) => {
        server.close(() => done())
        server.closeIdleConnections()
      })
      await relay?.close()
      await database.close()
    },
  }
}

/** Puts the demo plans into a new database, and joins the other servers on it, where there can be any. */
async function prepared(database: OpenDatabase, service: PlanService, hub: Hub, root: string, data: ServeOptions['data']): Promise<Relay | null> {
  await database.alone(() => addDemoPlans(service, join(root, 'demo')))
  if (!('url' in data)) return null
  const relay = new Relay(data.url, database.db, hub, (planId, revision) => service.stepAt(planId, revision))
  await relay.start()
  hub.beyond = (news) => void relay.tell(news)
  return relay
}

/** Listens on the port, or on the next free one; port 0 takes any. */
async function listen(server: Server, port: number): Promise<void> {
  for (let tried = port; ; tried++) {
    try {
      return await new Promise<void>((done, failed) => {
        server.once('error', failed)
        server.listen(tried, host, () => {
          server.off('error', failed)
          done()
        })
      })
    } catch (error) {
      const isTaken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE'
      if (!isTaken || port === 0 || tried - port >= portsTried) throw error
    }
  }
}
