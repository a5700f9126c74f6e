import type { RequestHandler } from 'express'
import { ForeignRequestError } from './errors.ts'

const localNames = new Set(['localhost', '127.0.0.1', '[::1]'])

/** Lets through only what this machine's own pages ask: a page of another site could else reach a local server. */
export const onlyFromHere: RequestHandler = (request, _response, next) => {
  const host = request.headers.host ?? ''
  if (!isLocal(`http://${host}`)) throw new ForeignRequestError(`the host "${host}" is not this machine's`)
  const origin = request.headers.origin
  if (origin !== undefined && origin !== `http://${host}`) throw new ForeignRequestError(`the origin "${origin}" is not this application's`)
  next()
}

function isLocal(url: string): boolean {
  try {
    return localNames.has(new URL(url).hostname)
  } catch {
    return false
  }
}
