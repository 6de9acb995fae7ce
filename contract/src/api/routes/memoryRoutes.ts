import * as z from 'zod'
import { projectMemorySchema } from '../memory'
import { defineRoute } from '../route'

/** What the textures of a project take. */
export const memoryRoutes = {
  getMemory: defineRoute({
    method: 'get',
    path: '/projects/{project}/memory',
    group: 'Textures',
    does: 'Texture memory of all judged assets at a target, by asset and role, and what would save most.',
    query: z.object({ target: z.string().max(100).optional() }),
    gives: projectMemorySchema,
  }),
}
