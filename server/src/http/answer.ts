import { Router, type Request, type Response } from 'express'
import type * as z from 'zod'
import {
  invariant,
  type AnswerGiven,
  type ApiRoute,
  type BodyRead,
  type PartsOf,
  type QueryRead,
} from '@stern-gate/contract'
import { parse, route } from './faults'

/** What a handler is given: parts of the address, query and body as their schemas read them. */
export interface Call<R extends ApiRoute> {
  parts: PartsOf<R>
  query: QueryRead<R>
  body: BodyRead<R>
  request: Request
  response: Response
}

/** A router that is filled by definitions of the contract. */
export interface Answering {
  router: Router
  /** Answers a route; where it gives bytes or events the handler writes them itself. */
  on: <R extends ApiRoute>(of: R, handle: (call: Call<R>) => Promise<AnswerGiven<R>> | AnswerGiven<R>) => void
}

/** Tests and development hold every answer against its schema; in use that would cost as much as making it. */
const checksAnswers = (): boolean => process.env['STERN_GATE_CHECK_ANSWERS'] === '1'

/** Address as Express takes it. */
export const expressPath = (path: string): string => path.replace(/\{(\w+)\}/g, ':$1')

export function answering(): Answering {
  const router = Router()
  const on: Answering['on'] = (of, handle) => {
    router[of.method](
      expressPath(of.path),
      route(async (request, response) => {
        const answer = await handle({
          parts: request.params as PartsOf<typeof of>,
          query: (of.query ? parse(of.query, request.query) : undefined) as QueryRead<typeof of>,
          body: (isSchema(of.takes) ? parse(of.takes, request.body) : undefined) as BodyRead<typeof of>,
          request,
          response,
        })
        if (!isSchema(of.gives)) return
        if (checksAnswers()) checkAnswer(of, of.gives, answer)
        if (of.status !== undefined) response.status(of.status)
        response.json(answer)
      }),
    )
  }
  return { router, on }
}

const isSchema = (of: ApiRoute['takes'] | ApiRoute['gives']): of is z.ZodType =>
  of !== undefined && typeof of !== 'string'

function checkAnswer(of: ApiRoute, gives: z.ZodType, answer: unknown): void {
  // As it leaves: dates and what is undefined are others in JSON
  const parsed = gives.safeParse(JSON.parse(JSON.stringify(answer)))
  invariant(
    parsed.success,
    `${of.method} ${of.path} answers something else than it says: ${parsed.error?.issues[0]?.path.join('.')} ${parsed.error?.issues[0]?.message}`,
  )
}
