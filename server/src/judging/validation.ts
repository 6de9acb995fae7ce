import type { MeasuredFile } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import type { KeptFacts } from '../store/factsStore'
import { addJobs } from '../store/jobQueue'

/** Whether a file is of a kind that the open standard's validator reads. */
export const mayBeValidated = ({ kind, facts }: Pick<KeptFacts, 'kind' | 'facts'>): boolean =>
  facts !== null && (kind === 'glb' || kind === 'gltf')

/** Behind all other work: nothing waits for it. */
const LAST = 20

/** Has assets looked at by the validator, those of them that have a file it did not see yet. */
export const addValidation = (
  db: Queryable,
  judged: readonly { asset: string; files: readonly MeasuredFile[] }[],
): Promise<void> =>
  addJobs(
    db,
    'validate_asset',
    judged
      .filter(({ files }) => files.some((f) => !f.standard && mayBeValidated(f)))
      .map(({ asset }) => asset)
      .sort()
      .map((asset) => ({ payload: { asset }, key: `validate:${asset}`, priority: LAST })),
  )
