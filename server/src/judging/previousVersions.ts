import { carriedParts, type Subject } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { findVersion, listVersionFiles, type AssetRecord } from '../store/assets'
import { findOutput } from '../store/outputs'
import { subjectOf, type AssetContext } from './assetContext'
import { loadState } from './loadState'

/**
 * Where the version before this one stood and what it carried, as it was handed on: its output, or its source where it had no
 * recipe. Null for the first version and for what has no mesh.
 */
export async function previousVersion(
  db: Queryable,
  context: AssetContext,
  asset: AssetRecord,
  number: number,
): Promise<Subject['previous']> {
  if (number < 2 || asset.kind !== 'mesh') return null
  const version = await findVersion(db, asset.id, number - 1)
  if (!version) return null
  const output = version.outputKey === null ? null : await findOutput(db, version.outputKey)
  const files = output ? [] : await listVersionFiles(db, version.id)
  const state = await loadState(db, { asset, version, files }, output),
    subject = subjectOf(context, asset, state.draft, state.files)
  return subject.bounds && { version: version.number, bounds: subject.bounds, carried: carriedParts(subject) }
}
