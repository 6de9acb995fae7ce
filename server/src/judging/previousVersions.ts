import type { Subject } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { findVersion, listVersionFiles, type AssetRecord } from '../store/assets'
import { findOutput } from '../store/outputs'
import { subjectOf, type AssetContext } from './assetContext'
import { draftOf, draftOfOutput } from './drafts'
import { measuredFiles } from './measuredFiles'

/**
 * Where the version before this one stood, as it was handed on: its output, or its source where it had no
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
  const bounds = output
    ? subjectOf(
        context,
        asset,
        draftOfOutput(asset, version, output),
        (
          await measuredFiles(
            db,
            output.files.map((f) => ({ ...f, fault: null })),
          )
        ).files,
      ).bounds
    : await sourceBounds(db, context, asset, version)
  return bounds && { version: version.number, bounds }
}

async function sourceBounds(
  db: Queryable,
  context: AssetContext,
  asset: AssetRecord,
  version: NonNullable<Awaited<ReturnType<typeof findVersion>>>,
) {
  const files = await listVersionFiles(db, version.id)
  return subjectOf(context, asset, draftOf(asset, version, files), (await measuredFiles(db, files)).files)
    .bounds
}
