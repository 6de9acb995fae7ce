import { bad, routes } from '@stern-gate/contract'
import type { LibraryRoom } from '../rulebooks/libraryRoom'
import { projectSurfaces, saveSurface } from '../rulebooks/surfaces'
import type { Services } from '../services/services'
import type { answering } from './answer'
import { FaultReply } from './faults'
import { projectOf, projectReply } from './projectRoutes'

/** Adds the routes of a project's surfaces, which are a part of its rulebook. */
export function addSurfaceRoutes(
  on: ReturnType<typeof answering>['on'],
  services: Services,
  room: LibraryRoom,
): void {
  const { db } = services.connection
  on(routes.listSurfaces, async ({ parts }) => projectSurfaces(db, await projectOf(db, parts.project)))
  on(routes.saveSurface, async ({ parts, body }) => {
    const project = await projectOf(db, parts.project),
      name = parts.surface.trim()
    if (name === '' || name.length > 60)
      throw new FaultReply(
        bad('request/invalid', 'A surface has a name of up to 60 characters.', 'Give it another name.').fault,
      )
    return projectReply(db, await saveSurface(services, room, project, name, body.surface))
  })
}
