import { availableParallelism } from 'node:os'
import { bad, good, settingsSchema, type Outcome, type Settings } from '@stern-gate/contract'
import { threadsFor } from '@stern-gate/engine/pool'

/** Reads the settings from an environment. Faults: settings/invalid with the variable's name. */
export function readSettings(environment: Record<string, string | undefined>): Outcome<Settings> {
  const given = Object.fromEntries(
    Object.entries(environment).filter(
      ([key, value]) => key.startsWith('STERN_') && value !== undefined && value !== '',
    ),
  )
  const parsed = settingsSchema.safeParse({ STERN_THREADS: threadsFor(availableParallelism()), ...given })
  if (parsed.success) return good(parsed.data)
  const issue = parsed.error.issues[0]!
  return bad(
    'settings/invalid',
    `${String(issue.path[0])}: ${issue.message}`,
    'Correct the variable; the README lists all with their defaults.',
    { part: String(issue.path[0]) },
  )
}
