import { Router, text as textBody, json } from 'express'
import { CreatePlan, paths, RenamePlan, SendStep, uploadLimit } from '../../core/contract/api.ts'
import { readPlan, writePlan } from '../../core/plan/file.ts'
import { newPlan } from '../../core/plan/new-plan.ts'
import { allFaults } from '../../core/rules/all-faults.ts'
import { InvalidError } from '../errors.ts'
import type { Hub } from '../live/hub.ts'
import type { PlanService } from '../service/plan-service.ts'

/** Plans, their steps and their files over HTTP: each route reads its input and calls the service. */
export function planRoutes(service: PlanService, hub: Hub): Router {
  const router = Router()
  const small = json({ limit: '1mb' })
  const large = json({ limit: uploadLimit })
  const byId = (path: (id: string) => string) => path(':id')
  const idOf = (request: { params: Record<string, unknown> }) => String(request.params.id)

  router.get(paths.plans(), async (_request, response) => void response.json(await service.list()))

  router.post(paths.plans(), small, async (request, response) => {
    const { name } = CreatePlan.parse(request.body)
    response.status(201).json({ id: await service.create(newPlan(name)) })
  })

  router.post(paths.importPlan(), textBody({ limit: uploadLimit, type: '*/*' }), async (request, response) => {
    const read = readPlan(typeof request.body === 'string' ? request.body : '')
    if (!read.ok) {
      const issues = allFaults(read.issues, read.salvaged).map(({ path, says }) => ({ path, message: says }))
      throw new InvalidError(`this file cannot be read as a plan: ${issues.length} fault${issues.length === 1 ? '' : 's'}`, issues)
    }
    response.status(201).json({ id: await service.create(read.records) })
  })

  router.get(byId(paths.plan), async (request, response) => void response.json(await service.document(idOf(request))))

  router.patch(byId(paths.plan), small, async (request, response) => {
    const done = await service.rename(idOf(request), RenamePlan.parse(request.body).name)
    hub.tell(idOf(request), done)
    response.json({ revision: done.revision })
  })

  router.delete(byId(paths.plan), async (request, response) => {
    await service.remove(idOf(request))
    hub.tellRemoved(idOf(request))
    response.status(204).end()
  })

  router.post(byId(paths.copy), async (request, response) => void response.status(201).json({ id: await service.copy(idOf(request)) }))

  router.get(byId(paths.file), async (request, response) => {
    const records = await service.records(idOf(request))
    response.attachment(`${records.head.id}.tundrift.json`).type('application/json').send(writePlan(records))
  })

  router.post(byId(paths.steps), large, async (request, response) => {
    const { reply, done, isNew } = await service.take(idOf(request), SendStep.parse(request.body))
    if (isNew) hub.tell(idOf(request), done)
    response.json(reply)
  })

  router.get(byId(paths.events), async (request, response) => {
    await service.revisionOf(idOf(request))
    hub.listen(idOf(request), response)
    // Asked for again: a step that was taken before this window listened is in it.
    hub.greet(response, await service.revisionOf(idOf(request)))
  })

  return router
}
