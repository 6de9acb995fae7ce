import { bad, routes } from '@stern-gate/contract'
import { memoryAt, savingRules } from '@stern-gate/core'
import { judgeIn } from '../judging/assetContext'
import { eachSubject, type LibraryRoom } from '../rulebooks/libraryRoom'
import type { Services } from '../services/services'
import type { answering } from './answer'
import { FaultReply } from './faults'
import { projectOf } from './projectRoutes'

/** Adds the routes of a project's texture memory, which is told from the library in memory. */
export function addMemoryRoutes(
  on: ReturnType<typeof answering>['on'],
  { connection: { db } }: Services,
  room: LibraryRoom,
): void {
  on(routes.getMemory, async ({ parts, query }) => {
    const project = await projectOf(db, parts.project),
      name = query.target ?? project.target
    const library = await room.open(project.id),
      { rulebook } = library.context
    const target = Object.hasOwn(rulebook.targets, name) ? rulebook.targets[name] : undefined
    if (!target)
      throw new FaultReply(
        bad('request/invalid', `The rulebook has no target ${name}.`, 'Choose one of its targets.').fault,
      )
    const memory = memoryAt(name, target)
    await eachSubject(library, rulebook, (of, { asset }) => {
      const subject = { ...of, target, targetName: name }
      memory.add(asset.id, subject, judgeIn(library.context, asset.id, subject, savingRules).findings)
    })
    return memory.sum()
  })
}
