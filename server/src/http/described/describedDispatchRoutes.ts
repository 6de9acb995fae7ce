import {
  dispatchChoiceSchema,
  dispatchDetailSchema,
  dispatchPlanSchema,
  dispatchSchema,
  newDispatchSchema,
} from '@stern-gate/contract'
import type { ApiRoute } from './apiRoute'

/** Dispatches: what each route takes and gives. */
export const describedDispatchRoutes: readonly ApiRoute[] = [
  {
    method: 'post',
    path: '/projects/{project}/dispatch-plan',
    group: 'Dispatches',
    does: 'What would go into a package and what would stay behind, and why.',
    takes: dispatchChoiceSchema,
    gives: dispatchPlanSchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/dispatches',
    group: 'Dispatches',
    does: 'The newest packages.',
    gives: dispatchSchema.array(),
  },
  {
    method: 'post',
    path: '/projects/{project}/dispatches',
    group: 'Dispatches',
    does: 'Has the chosen assets judged for a target, and those that are clear packed, in the background.',
    takes: newDispatchSchema,
    gives: dispatchDetailSchema,
    status: 201,
  },
  {
    method: 'get',
    path: '/dispatches/{dispatch}',
    group: 'Dispatches',
    does: 'A package with all that is in it, and what stayed behind.',
    gives: dispatchDetailSchema,
  },
  {
    method: 'get',
    path: '/dispatches/{dispatch}/package',
    group: 'Dispatches',
    does: 'The package as a zip, with manifest.json.',
    gives: 'bytes',
  },
]
