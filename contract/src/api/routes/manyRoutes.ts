import {
  bulkChangeSchema,
  bulkRequestSchema,
  offersRequestSchema,
  offersSchema,
  renamePlanRequestSchema,
  renamePlanSchema,
} from '../many'
import { defineRoute } from '../route'

/** Many at once: what each route takes and gives. */
export const manyRoutes = {
  getOffers: defineRoute({
    method: 'post',
    path: '/projects/{project}/offers',
    group: 'Many at once',
    does: 'Which remedies chosen assets could take, and how many of them.',
    takes: offersRequestSchema,
    gives: offersSchema,
  }),
  listChanges: defineRoute({
    method: 'get',
    path: '/projects/{project}/changes',
    group: 'Many at once',
    does: 'The newest changes of many assets.',
    gives: bulkChangeSchema.array(),
  }),
  applyToMany: defineRoute({
    method: 'post',
    path: '/projects/{project}/changes',
    group: 'Many at once',
    does: 'Applies one remedy to all findings of a rule on many assets, or steps as a person looked them over, as one act.',
    takes: bulkRequestSchema,
    gives: bulkChangeSchema,
    status: 201,
  }),
  planRenames: defineRoute({
    method: 'post',
    path: '/projects/{project}/renames',
    group: 'Many at once',
    does: 'What findings of these assets propose to rename, with every name and reference that would go along; changes nothing.',
    takes: renamePlanRequestSchema,
    gives: renamePlanSchema.array(),
  }),
  undoMany: defineRoute({
    method: 'post',
    path: '/changes/{change}/undo',
    group: 'Many at once',
    does: 'Takes such an act back.',
    gives: bulkChangeSchema,
  }),
}
