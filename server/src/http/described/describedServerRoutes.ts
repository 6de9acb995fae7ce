import * as z from 'zod'
import { healthSchema, remedyInfoSchema, rulePageSchema } from '@stern-gate/contract'
import type { ApiRoute } from './apiRoute'

/** Server: what each route takes and gives. */
export const describedServerRoutes: readonly ApiRoute[] = [
  {
    method: 'get',
    path: '/health',
    group: 'Server',
    does: 'Whether store, database and queue work; 503 while one of them does not.',
    gives: healthSchema,
  },
  {
    method: 'get',
    path: '/openapi.json',
    group: 'Server',
    does: 'This description as OpenAPI 3.1.',
    gives: z.looseObject({}),
  },
  { method: 'get', path: '/docs', group: 'Server', does: 'This description as a page.', gives: 'bytes' },
  {
    method: 'get',
    path: '/rules/{station}/{rule}',
    group: 'Server',
    does: 'The page of a rule, made from the rule itself.',
    gives: rulePageSchema,
  },
  {
    method: 'get',
    path: '/remedies',
    group: 'Server',
    does: 'All remedies, with what can be chosen of each.',
    gives: remedyInfoSchema.array(),
  },
]
