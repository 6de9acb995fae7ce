import * as z from 'zod'
import {
  dispatchChoiceSchema,
  dispatchDetailSchema,
  dispatchPlanSchema,
  dispatchSchema,
  newDispatchSchema,
} from '../../dispatch'
import { defineRoute } from '../route'

/** Dispatches: what each route takes and gives. */
export const dispatchRoutes = {
  planDispatch: defineRoute({
    method: 'post',
    path: '/projects/{project}/dispatch-plan',
    group: 'Dispatches',
    does: 'What would go into a package and what would stay behind, and why.',
    takes: dispatchChoiceSchema,
    gives: dispatchPlanSchema,
  }),
  listDispatches: defineRoute({
    method: 'get',
    path: '/projects/{project}/dispatches',
    group: 'Dispatches',
    does: 'The newest packages.',
    gives: dispatchSchema.array(),
  }),
  createDispatch: defineRoute({
    method: 'post',
    path: '/projects/{project}/dispatches',
    group: 'Dispatches',
    does: 'Has the chosen assets judged for a target, and those that are clear packed, in the background.',
    takes: newDispatchSchema,
    gives: dispatchDetailSchema,
    status: 201,
  }),
  getDispatch: defineRoute({
    method: 'get',
    path: '/dispatches/{dispatch}',
    group: 'Dispatches',
    does: 'A package with all that is in it, and what stayed behind.',
    gives: dispatchDetailSchema,
  }),
  getPackage: defineRoute({
    method: 'get',
    path: '/dispatches/{dispatch}/package',
    group: 'Dispatches',
    does: 'The package as a zip, with manifest.json.',
    gives: 'bytes',
  }),
  getCredits: defineRoute({
    method: 'get',
    path: '/dispatches/{dispatch}/credits',
    group: 'Dispatches',
    does: 'Whom to name for what is in a package, as Markdown or CSV.',
    query: z.object({ format: z.enum(['md', 'csv']).default('md') }),
    gives: 'bytes',
  }),
}
