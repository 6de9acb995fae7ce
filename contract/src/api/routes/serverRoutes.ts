import * as z from 'zod'
import { healthSchema, remedyInfoSchema, rulePageSchema } from '../api'
import { defineRoute } from '../route'

/** Server: what each route takes and gives. */
export const serverRoutes = {
  getHealth: defineRoute({
    method: 'get',
    path: '/health',
    group: 'Server',
    does: 'Whether store, database and queue work; 503 while one of them does not.',
    gives: healthSchema,
  }),
  getDescription: defineRoute({
    method: 'get',
    path: '/openapi.json',
    group: 'Server',
    does: 'This description as OpenAPI 3.1.',
    gives: z.looseObject({}),
  }),
  getDescriptionPage: defineRoute({
    method: 'get',
    path: '/docs',
    group: 'Server',
    does: 'This description as a page.',
    gives: 'bytes',
  }),
  getSchema: defineRoute({
    method: 'get',
    path: '/schemas/{name}',
    group: 'Server',
    does: 'JSON Schema of a document: report, rulebook, waivers, manifest or facts.',
    gives: z.looseObject({}),
  }),
  getRulePage: defineRoute({
    method: 'get',
    path: '/rules/{station}/{rule}',
    group: 'Server',
    does: 'The page of a rule, made from the rule itself.',
    gives: rulePageSchema,
  }),
  listRemedies: defineRoute({
    method: 'get',
    path: '/remedies',
    group: 'Server',
    does: 'All remedies, with what can be chosen of each.',
    gives: remedyInfoSchema.array(),
  }),
}
