import type { ErrorRequestHandler, RequestHandler, Response } from 'express'
import type * as z from 'zod'
import type { Logger } from 'pino'
import { bad, faultCatalogue, type Fault } from '@stern-gate/contract'
import { FaultReply } from '../trouble/faultReply'
import { waitable, waitableFault } from '../trouble/waitable'

export { FaultReply, notFound } from '../trouble/faultReply'

/** Parses input at the door. Throws FaultReply request/invalid. */
export function parse<T>(schema: z.ZodType<T>, input: unknown): T {
  const parsed = schema.safeParse(input)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]!
  throw new FaultReply(
    bad(
      'request/invalid',
      `${issue.path.join('.') || 'the request'}: ${issue.message}`,
      'Correct the named field.',
      { part: issue.path.join('.') },
    ).fault,
  )
}

/** A route with promises: what it throws goes to the final handler. */
export const route =
  (handle: RequestHandler): RequestHandler =>
  (request, response, next) => {
    Promise.resolve(handle(request, response, next)).catch(next)
  }

export const sendFault = (response: Response, fault: Fault): void => {
  response.status(faultCatalogue[fault.code]).json({ fault })
}

/** The fault that an error is answered with; what is our own bug is logged, and says nothing of its inside. */
export function trouble(error: unknown, log: Logger, path = ''): Fault {
  if (error instanceof FaultReply) return error.fault
  const cause = waitable(error)
  if (cause) {
    log.warn({ error, path }, cause)
    return waitableFault(cause)
  }
  const status = (error as { status?: number }).status
  if (status !== undefined && status < 500)
    return bad(
      status === 413 ? 'request/too-large' : 'request/invalid',
      'The request cannot be read.',
      'Reload the page and try again.',
    ).fault
  log.error({ error, path }, 'a request failed')
  return bad(
    'server/failed',
    'The server met a fault of its own.',
    'Try again; the server log has the details.',
  ).fault
}

/** Maps faults to status. */
export const finalHandler =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    // Nobody is there to read it any more
    if (response.destroyed) return
    if (response.headersSent) return next(error)
    sendFault(response, trouble(error, log, request.path))
  }
