import { bad, type IntakePreset, type IntakeWay } from '@stern-gate/contract'
import { findRemedy, intakePresets } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import type { Queryable } from '../store/database'
import { addEvent } from '../store/eventLog'
import { currentRulebook, reviseRulebook, type ProjectRow } from '../store/projects'
import { FaultReply } from '../trouble/faultReply'
import type { LibraryRoom } from './libraryRoom'

export const listIntakePresets = async (db: Queryable, project: ProjectRow): Promise<IntakePreset[]> =>
  intakePresets(await currentRulebook(db, project))

export const findIntakePreset = async (
  db: Queryable,
  project: ProjectRow,
  name: string,
): Promise<IntakePreset | null> => (await listIntakePresets(db, project)).find((p) => p.name === name) ?? null

const { options: optionsSchema } = findRemedy('files/intake')!

/** A preset with all its options, those that were not said at their defaults. Throws what is wrong with them. */
export function wholePreset(preset: IntakePreset): IntakePreset {
  const options = optionsSchema.safeParse(preset.options)
  if (options.success) return { ...preset, options: options.data as IntakePreset['options'] }
  const { path, message } = options.error.issues[0]!,
    part = path.join('.')
  throw new FaultReply(
    bad('remedy/bad-options', `${part}: ${message}.`, 'See the options of files/intake.', { part }).fault,
  )
}

/**
 * Puts a preset under its name into the rulebook, or takes it out (null), as a revision of its own. No asset is judged
 * anew: recipes keep what a preset said when they were taken in by it.
 */
export async function saveIntakePreset(
  { connection: { db } }: Pick<JobServices, 'connection'>,
  room: LibraryRoom,
  project: ProjectRow,
  name: string,
  way: IntakeWay | null,
): Promise<void> {
  await reviseRulebook(
    db,
    project,
    (rulebook) => {
      const { [name]: _, ...others } = rulebook.intake
      return { ...rulebook, intake: way ? { ...others, [name]: way } : others }
    },
    { by: localPerson.name, note: `Intake preset ${name}${way ? '' : ' taken out'}` },
    {
      then: async (tx, row) => {
        await addEvent(tx, project.id, { kind: 'rulebook', revision: row.rulebookRevision }, localPerson.name)
      },
    },
  )
  room.forget(project.id)
}
