import type { ErrorRequestHandler, RequestHandler, Response } from 'express'
import type * as z from 'zod'
import type { Logger } from 'pino'
import { bad, faultCatalogue, type Fault } from '@stern-gate/contract'
import { FaultReply } from '../faultReply'

export { FaultReply, notFound } from '../faultReply'

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

/** Maps faults to status; anything else is our own bug and says nothing of its inside. */
export const finalHandler =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error)
    if (error instanceof FaultReply) return sendFault(response, error.fault)
    const status = (error as { status?: number }).status
    if (status !== undefined && status < 500)
      return sendFault(
        response,
        bad(
          status === 413 ? 'request/too-large' : 'request/invalid',
          'The request cannot be read.',
          'Reload the page and try again.',
        ).fault,
      )
    log.error({ error, path: request.path }, 'a request failed')
    sendFault(
      response,
      bad('server/failed', 'The server met a fault of its own.', 'Try again; the server log has the details.')
        .fault,
    )
  }
