import { Router, type Response } from 'express'
import { missingOf, type AskedAlone } from '../../core/check/asked-for.ts'
import type { CheckProgress } from '../../core/check/check.ts'
import { AskCheck, paths } from '../../core/contract/api.ts'
import type { Records } from '../../core/plan/records.ts'
import { InvalidError } from '../errors.ts'
import { problemOf } from '../problem.ts'
import type { CheckService } from '../service/check-service.ts'
import type { PlanService } from '../service/plan-service.ts'

/** Bytes: to pack more takes longer than to send it. */
const mostPacked = 4_000_000

/** So often at most is progress told, in milliseconds. */
const toldEvery = 100

/** The check of a plan over HTTP: as one document, or, where events are accepted, with its progress on the way there. */
export function checkRoutes(plans: PlanService, checks: CheckService): Router {
  const router = Router()
  router.get(paths.check(':id'), async (request, response) => {
    const id = String(request.params.id)
    const { lockouts, sums, ...asked } = AskCheck.parse(request.query)
    const { revision, records } = await plans.current(id)
    assertKnown(records, asked)
    const gone = new AbortController()
    response.on('close', () => gone.abort())
    const wantsEvents = request.accepts(['json', 'text/event-stream']) === 'text/event-stream'
    if (wantsEvents) startEvents(response)
    try {
      const options = { ...asked, revision, ...(lockouts === 'false' && { lockouts: false as const }), ...(sums === 'false' && { sums: false }) }
      const result = await checks.check(records, options, wantsEvents ? seldom((progress) => sendEvent(response, 'progress', JSON.stringify(progress))) : () => {}, gone.signal)
      if (wantsEvents) {
        sendEvent(response, 'result', result)
        response.end()
      } else {
        if (result.byteLength > mostPacked) response.set('cache-control', 'no-transform')
        response.type('json').end(result)
      }
    } catch (error) {
      // Who has gone does not wait for an answer.
      if (gone.signal.aborted) return
      if (!wantsEvents) throw error
      sendEvent(response, 'problem', JSON.stringify(problemOf(error)))
      response.end()
    }
  })
  return router
}

function assertKnown(records: Records, asked: AskedAlone): void {
  for (const { kind, says } of missingOf(records, asked)) throw new InvalidError(says, [{ path: kind, message: `no ${kind} has this id` }])
}

function startEvents(response: Response): void {
  response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
}

function sendEvent(response: Response, event: string, json: string | Uint8Array): void {
  response.write(`event: ${event}\ndata: `)
  response.write(json)
  response.write('\n\n')
}

/** Passes on what it is told, but not more often than can be read; another part is always told. */
function seldom(tell: (progress: CheckProgress) => void): (progress: CheckProgress) => void {
  let last = -Infinity
  let part: CheckProgress['part'] | null = null
  return (progress) => {
    if (progress.part === part && performance.now() - last < toldEvery) return
    last = performance.now()
    part = progress.part
    tell(progress)
  }
}
