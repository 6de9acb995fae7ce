import { and, eq } from 'drizzle-orm'
import { findingSchema } from '@stern-gate/contract'
import {
  carriedKinds,
  carriedParts,
  withOpenParts,
  type CarriedParts,
  type OpenPart,
  type Subject,
} from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { findVersion, listVersionFiles, type AssetRecord, type VersionRecord } from '../store/assets'
import { findOutput } from '../store/outputs'
import { findings } from '../store/schema'
import { subjectOf, type AssetContext } from './assetContext'
import { loadState } from './loadState'

/** The rule that asks for what a new version lacks. */
export const LESS_THAN_BEFORE = 'files/less-than-before'

/**
 * Where the version before this one stood and what it carried, as it was handed on: its output, or its source where it
 * had no recipe. Null for the first version and for what has no mesh.
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
  const subject = await subjectOfVersion(db, context, asset, version)
  if (!subject.bounds) return null
  const open = await openParts(db, version)
  let carried = carriedParts(subject)
  for (const had of new Set(open.map((o) => o.version))) {
    const earlier = await carriedBy(db, context, asset, had)
    carried = withOpenParts(
      carried,
      earlier,
      open.filter((o) => o.version === had),
    )
  }
  return { version: version.number, bounds: subject.bounds, quads: subject.mesh?.quads ?? null, carried }
}

async function subjectOfVersion(
  db: Queryable,
  context: AssetContext,
  asset: AssetRecord,
  version: VersionRecord,
): Promise<Subject> {
  const output = version.outputKey === null ? null : await findOutput(db, version.outputKey)
  const files = output ? [] : await listVersionFiles(db, version.id)
  const state = await loadState(db, { asset, version, files }, output)
  return subjectOf(context, asset, state.draft, state.files)
}

async function carriedBy(
  db: Queryable,
  context: AssetContext,
  asset: AssetRecord,
  number: number,
): Promise<CarriedParts | null> {
  const version = await findVersion(db, asset.id, number)
  return version && carriedParts(await subjectOfVersion(db, context, asset, version))
}

/** What a version lacked of an earlier one, without that anybody has accepted it. */
export async function openParts(db: Queryable, version: VersionRecord): Promise<OpenPart[]> {
  const rows = await db
    .select({ body: findings.body })
    .from(findings)
    .where(
      and(
        eq(findings.versionId, version.id),
        eq(findings.rule, LESS_THAN_BEFORE),
        eq(findings.waived, false),
      ),
    )
  return rows.flatMap(({ body }) => {
    const { data } = findingSchema.parse(body),
      part = carriedKinds.find((kind) => kind === data['part'])
    return part && typeof data['version'] === 'number' ? [{ part, version: data['version'] }] : []
  })
}
