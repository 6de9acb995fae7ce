import { bad, type Rulebook } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import { addEvent } from '../store/eventLog'
import { addJudgingOfMany } from '../store/jobQueue'
import { reviseRulebook, type ProjectRow } from '../store/projects'
import { markUnjudged } from '../store/versionStates'
import { FaultReply } from '../trouble/faultReply'
import { effectOf } from './effectOf'
import type { LibraryRoom } from './libraryRoom'

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
  const revised = await reviseRulebook(
    db,
    project,
    () => rulebook,
    { by: localPerson.name, note },
    {
      expected: revision,
      then: async (tx, row) => {
        await markUnjudged(tx, changed)
        await addJudgingOfMany(tx, project.id, changed)
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
