import { bad, type Rulebook } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import { addEvent } from '../store/eventLog'
import { addJudgingOfMany } from '../store/jobQueue'
import { currentRulebook, reviseRulebook, type ProjectRow } from '../store/projects'
import { markUnjudged } from '../store/versionStates'
import { FaultReply } from '../trouble/faultReply'
import { effectOf } from './effectOf'
import type { LibraryRoom } from './libraryRoom'
import { assetsOfChangedSurfaces } from './surfaces'

/**
 * Puts a rulebook in force as the next revision, and has those assets judged anew whose judgement it changes; one
 * transaction. Throws a conflict where another revision than the expected one is in force.
 */
export async function saveRulebook(
  { connection: { db } }: Pick<JobServices, 'connection'>,
  room: LibraryRoom,
  project: ProjectRow,
  { rulebook, revision, note }: { rulebook: Rulebook; revision: number; note: string },
): Promise<ProjectRow> {
  const library = await room.open(project.id),
    { changed } = await effectOf(library, rulebook)
  const before = await currentRulebook(db, project)
  const revised = await reviseRulebook(
    db,
    project,
    () => rulebook,
    { by: localPerson.name, note },
    {
      expected: revision,
      then: async (tx, row) => {
        const followers = await assetsOfChangedSurfaces(tx, project.id, before, rulebook)
        const anew = [...new Set([...changed, ...followers])]
        await markUnjudged(tx, anew)
        await addJudgingOfMany(tx, project.id, anew)
        await addEvent(tx, project.id, { kind: 'rulebook', revision: row.rulebookRevision }, localPerson.name)
      },
    },
  )
  room.forget(project.id)
  if (revised) return revised
  throw new FaultReply(
    bad(
      'request/conflict',
      'Somebody else saved the rulebook in the meantime.',
      'Look at the newest revision and make the change again.',
    ).fault,
  )
}
