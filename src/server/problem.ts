import type { ErrorRequestHandler, RequestHandler } from 'express'
import { ZodError } from 'zod'
import { apiRoot, type Problem } from '../core/contract/api.ts'
import { pathText } from '../core/plan/issue.ts'
import { ClashError, ForeignRequestError, InvalidError, NotFoundError } from './errors.ts'

const base = 'about:blank#'

interface ProblemKind {
  type: string
  title: string
  status: number
  more?: (error: never) => Partial<Problem>
}

const kinds: [new (...args: never[]) => Error, ProblemKind][] = [
  [NotFoundError, { type: 'not-found', title: 'Not found', status: 404 }],
  [InvalidError, { type: 'invalid', title: 'What was sent is not right', status: 422, more: (error: InvalidError) => ({ issues: error.issues }) }],
  [ClashError, { type: 'clash', title: 'Changed in the meantime', status: 409, more: (error: ClashError) => ({ conflicts: error.conflicts }) }],
  [ForeignRequestError, { type: 'foreign-request', title: 'Not from this application', status: 403 }],
  [ZodError, { type: 'invalid', title: 'What was sent is not right', status: 400, more: zodProblem }],
]

function zodProblem(error: ZodError): Partial<Problem> {
  const issues = error.issues.map((issue) => ({ path: pathText(issue.path as (string | number)[]), message: issue.message }))
  return { detail: issues.map(({ path, message }) => `${path || 'the body'}: ${message}`).join('; '), issues }
}

/** The problem document of an error, as RFC 9457 has it: the one place that maps errors to statuses. */
export function problemOf(error: unknown): Problem {
  for (const [type, kind] of kinds) {
    if (!(error instanceof type)) continue
    return { type: base + kind.type, title: kind.title, status: kind.status, detail: error.message, ...kind.more?.(error as never) }
  }
  const status = statusOf(error)
  if (status !== null) return { type: base + 'bad-request', title: 'The request could not be read', status, detail: (error as Error).message }
  return { type: base + 'failure', title: 'Something failed in the server', status: 500, detail: 'The server log says more. What was saved before is kept.' }
}

/** The status of a body parser's error (too large, not JSON). */
function statusOf(error: unknown): number | null {
  const status = (error as { status?: unknown } | null)?.status
  return typeof status === 'number' && status >= 400 && status < 500 ? status : null
}

export const problemHandler: ErrorRequestHandler = (error, request, response, next) => {
  if (response.headersSent) return next(error)
  const problem = problemOf(error)
  if (problem.status >= 500) request.log?.error({ err: error as Error }, 'request failed')
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem))
}

export const noSuchPath: RequestHandler = (request) => {
  throw new NotFoundError(`there is nothing at ${apiRoot}${request.path}`)
}
