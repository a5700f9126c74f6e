import { existsSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import express, { type Express } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { apiRoot, paths } from '../core/contract/api.ts'
import { onlyFromHere } from './guard.ts'
import type { Hub } from './live/hub.ts'
import { noSuchPath, problemHandler } from './problem.ts'
import { checkRoutes } from './routes/checks.ts'
import { planRoutes } from './routes/plans.ts'
import type { CheckService } from './service/check-service.ts'
import type { PlanService } from './service/plan-service.ts'

export interface AppParts {
  service: PlanService
  checks: CheckService
  hub: Hub
  logger: Logger
  /** The built web page; null: none is served. */
  webFolder: string | null
}

const aYear = 31_536_000_000

/** The Express application, built from what it is given. */
export function makeApp({ service, checks, hub, logger, webFolder }: AppParts): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(pinoHttp({ logger }))
  app.use(onlyFromHere)
  app.use(helmet({
    contentSecurityPolicy: {
      directives: { scriptSrc: ["'self'"], workerSrc: ["'self'"], styleSrc: ["'self'", "'unsafe-inline'"], upgradeInsecureRequests: null },
    },
    strictTransportSecurity: false,
    // Threads of the page may share memory then (resting-clock.ts); all that it loads comes from here.
    crossOriginEmbedderPolicy: true,
  }))
  // Events are told as they come, not when there are enough of them to be worth packing.
  app.use(compression({ filter: (request, response) => !/event-stream/.test(`${request.headers.accept}`) && compression.filter(request, response) }))
  app.get(paths.health(), (_request, response) => void response.json({ ready: true }))
  app.use(planRoutes(service, hub))
  app.use(checkRoutes(service, checks))
  app.use(apiRoot, noSuchPath)
  if (webFolder && existsSync(webFolder)) {
    app.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: aYear }))
    app.use(express.static(webFolder))
    app.get('/{*path}', (_request, response) => response.sendFile('index.html', { root: webFolder }))
  }
  app.use(problemHandler)
  return app
}
