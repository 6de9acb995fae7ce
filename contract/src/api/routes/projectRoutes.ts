import { newProjectSchema, projectSchema, saveSizesSchema } from '../api'
import { defineRoute } from '../route'

/** Projects: what each route takes and gives. */
export const projectRoutes = {
  listProjects: defineRoute({
    method: 'get',
    path: '/projects',
    group: 'Projects',
    does: 'Lists the projects, newest first.',
    gives: projectSchema.array(),
  }),
  createProject: defineRoute({
    method: 'post',
    path: '/projects',
    group: 'Projects',
    does: 'Makes a project with the default rulebook.',
    takes: newProjectSchema,
    gives: projectSchema,
    status: 201,
  }),
  getProject: defineRoute({
    method: 'get',
    path: '/projects/{project}',
    group: 'Projects',
    does: 'One project.',
    gives: projectSchema,
  }),
  saveSizes: defineRoute({
    method: 'patch',
    path: '/projects/{project}/sizes',
    group: 'Projects',
    does: 'Sets the reference person and the step of the grid, as a revision of the rulebook.',
    takes: saveSizesSchema,
    gives: projectSchema,
  }),
  followEvents: defineRoute({
    method: 'get',
    path: '/projects/{project}/events',
    group: 'Projects',
    does: 'What happens, as server-sent events; resumes by Last-Event-ID.',
    gives: 'events',
  }),
}
