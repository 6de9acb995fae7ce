import { projectSchema } from '../api'
import { defineRoute } from '../route'
import { projectSurfaceSchema, saveSurfaceSchema } from '../surfaces'

const group = 'Surfaces'

/** Surfaces of a project, which slots of many assets can follow. */
export const surfaceRoutes = {
  listSurfaces: defineRoute({
    method: 'get',
    path: '/projects/{project}/surfaces',
    group,
    does: 'The surfaces of the project, each with its values and the slots that follow it.',
    gives: projectSurfaceSchema.array(),
  }),
  saveSurface: defineRoute({
    method: 'put',
    path: '/projects/{project}/surfaces/{surface}',
    group,
    does:
      'Adds, changes or takes out a surface, as a revision of the rulebook; ' +
      'the assets that follow it are made and judged anew.',
    takes: saveSurfaceSchema,
    gives: projectSchema,
  }),
}
