import { paths, PlanDocument, PlanSummary, Problem, StepReply, type SendStep } from '../core/contract/api.ts'
import { z } from 'zod'

/** The server answered that something cannot be done, and why. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError'
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title)
  }
}

/** The server did not answer at all. */
export class OfflineError extends Error {
  override readonly name = 'OfflineError'
  constructor() {
    super('The Tundrift server does not answer. Start it again with "npm start"; what you typed is kept here.')
  }
}

async function request(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response
  try {
    response = await fetch(path, init)
  } catch {
    throw new OfflineError()
  }
  if (response.ok) return response
  if (response.headers.get('content-type')?.includes('problem+json')) throw new ProblemError(Problem.parse(await response.json()))
  // A proxy in between answers with a page of its own when the server is gone.
  if (response.status >= 500) throw new OfflineError()
  throw new ProblemError({ type: 'about:blank', title: response.statusText || `status ${response.status}`, status: response.status })
}

const asJson = (body: unknown): RequestInit => ({ method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
const Created = z.object({ id: z.string() })

export const api = {
  async plans(): Promise<PlanSummary[]> {
    return z.array(PlanSummary).parse(await (await request(paths.plans())).json())
  },
  /** The plan, and the text that it came as, of which is told as soon as it is there: reading a large one takes a while. */
  async plan(id: string, arrived: (text: string) => void = () => {}): Promise<{ document: PlanDocument; text: string }> {
    const text = await (await request(paths.plan(id))).text()
    arrived(text)
    return { document: PlanDocument.parse(JSON.parse(text)), text }
  },
  async create(name: string): Promise<string> {
    return Created.parse(await (await request(paths.plans(), asJson({ name }))).json()).id
  },
  async importFile(text: string): Promise<string> {
    const init = { method: 'POST', headers: { 'content-type': 'application/json' }, body: text }
    return Created.parse(await (await request(paths.importPlan(), init)).json()).id
  },
  async copy(id: string): Promise<string> {
    return Created.parse(await (await request(paths.copy(id), { method: 'POST' })).json()).id
  },
  async rename(id: string, name: string): Promise<void> {
    await request(paths.plan(id), { ...asJson({ name }), method: 'PATCH' })
  },
  async remove(id: string): Promise<void> {
    await request(paths.plan(id), { method: 'DELETE' })
  },
  async step(id: string, step: SendStep): Promise<StepReply> {
    return StepReply.parse(await (await request(paths.steps(id), asJson(step))).json())
  },
}
