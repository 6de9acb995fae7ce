import { and, eq, inArray, ne, sql } from 'drizzle-orm'
import {
  counts,
  findingSchema,
  type AssetKind,
  type Fault,
  type Finding,
  type NamedPart,
  type Recipe,
  type Tally,
  type Verdict,
} from '@stern-gate/contract'
import { readRecipe, type AssetRecord, type VersionFileRecord, type VersionRecord } from './assets'
import { JUDGE_VERSION, offeredNames } from '@stern-gate/core'
import type { Queryable, Transaction } from './database'
import type { ProjectRow } from './projects'
import { assetNames, assets, findings, projects, recipes, versionFiles, versions } from './schema'
import { stationBit } from './library'
import { lockAssets } from './versionStates'

/** What a judgement of an asset depends on, besides facts and rulebook. */
export interface Judgeable {
  asset: AssetRecord
  version: VersionRecord
  files: VersionFileRecord[]
  revision: number
  recipe: Recipe
}

/** Assets with their newest versions, as they are now; those that are gone are left out. */
export async function findJudgeables(db: Queryable, ids: readonly string[]): Promise<Judgeable[]> {
  if (ids.length === 0) return []
  const rows = await db
    .select({ asset: assets, version: versions, revision: recipes.revision, body: recipes.body })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion)))
    .innerJoin(recipes, eq(recipes.assetId, assets.id))
    .where(inArray(assets.id, [...ids]))
  const files = await db
    .select()
    .from(versionFiles)
    .where(
      inArray(
        versionFiles.versionId,
        rows.map((r) => r.version.id),
      ),
    )
    .orderBy(versionFiles.versionId, versionFiles.position)
  const byVersion = new Map(rows.map((r) => [r.version.id, [] as VersionFileRecord[]]))
  for (const file of files) byVersion.get(file.versionId)!.push(file)
  return rows.map(({ asset, version, revision, body }) => ({
    asset,
    version,
    files: byVersion.get(version.id)!,
    revision,
    recipe: readRecipe(body),
  }))
}

/** How many assets of a project each rule has a finding on that counts. */
export async function countAssetsByRule(db: Queryable, projectId: string): Promise<Record<string, number>> {
  const { rows } = await db.execute<{ rule: string; n: number }>(sql`
    select f.rule, count(distinct a.id)::int as n from assets a
    join versions v on v.asset_id = a.id and v.number = a.current_version
    join findings f on f.version_id = v.id and not f.waived
    where a.project_id = ${projectId} group by f.rule`)
  return Object.fromEntries(rows.map((r) => [r.rule, r.n]))
}

/** Assets whose newest version came with a delivery, each with its findings of some rules. */
export async function findingsOfDelivery(
  db: Queryable,
  delivery: string,
  ruleIds: readonly string[],
): Promise<{ id: string; kind: AssetKind; findings: Finding[] }[]> {
  const rows = await db
    .select({ id: assets.id, kind: assets.kind, body: findings.body })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(assets.currentVersion, versions.number)))
    .leftJoin(findings, and(eq(findings.versionId, versions.id), inArray(findings.rule, [...ruleIds])))
    .where(eq(versions.deliveryId, delivery))
  const byAsset = new Map<string, { id: string; kind: AssetKind; findings: Finding[] }>()
  for (const { id, kind, body } of rows) {
    const known = byAsset.get(id) ?? { id, kind, findings: [] }
    if (body !== null) known.findings.push(findingSchema.parse(body))
    byAsset.set(id, known)
  }
  return [...byAsset.values()]
}

/** Assets whose recipe has steps, on or off. */
export async function listAssetsWithSteps(db: Queryable): Promise<string[]> {
  const rows = await db
    .select({ id: recipes.assetId })
    .from(recipes)
    .where(sql`jsonb_array_length(${recipes.body}->'steps') > 0`)
  return rows.map((r) => r.id)
}

/** Which of these names are offered to another asset of the project, and to which. */
export async function findOffered(
  db: Queryable,
  projectId: string,
  names: readonly string[],
  assetId: string,
): Promise<{ name: string; asset: string }[]> {
  if (names.length === 0) return []
  const rows = await db
    .select({ name: versions.offered, asset: assets.id })
    .from(versions)
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(
      and(eq(assets.projectId, projectId), inArray(versions.offered, [...names]), ne(assets.id, assetId)),
    )
  return rows.flatMap(({ name, asset }) => (name === null ? [] : [{ name, asset }]))
}

export interface JudgedVersion {
  shownName: string
  className: string
  tally: Tally
  verdict: Verdict
  headline: string
  names: NamedPart[]
  thumbnail: string | null
  outputKey: string | null
  outputFault: Fault | null
  findings: readonly Finding[]
}

/**
 * Puts the newest judgements in place of those before, each as one set. Those of assets that changed since
 * they were read, or of a rulebook that is no longer in force, are not kept; the others' ids come back.
 */
export async function saveJudgements(
  tx: Transaction,
  all: readonly { of: Judgeable; judged: JudgedVersion }[],
  by: Pick<ProjectRow, 'id' | 'rulebookRevision' | 'waiversRevision'>,
): Promise<string[]> {
  // Held until the commit, so that nothing is kept that was judged by a rulebook or waivers of before
  const [project] = await tx
    .select({ revision: projects.rulebookRevision, waivers: projects.waiversRevision })
    .from(projects)
    .where(eq(projects.id, by.id))
    .for('share')
  if (project?.revision !== by.rulebookRevision || project.waivers !== by.waiversRevision) return []
  const now = new Map(
    (
      await lockAssets(
        tx,
        all.map((j) => j.of.asset.id),
      )
    ).map((row) => [row.id, row]),
  )
  const kept = all.filter(({ of: { asset, revision } }) => {
    const row = now.get(asset.id)
    return (
      row &&
      row.revision === revision &&
      row.currentVersion === asset.currentVersion &&
      row.classChoice === asset.classChoice &&
      row.targetChoice === asset.targetChoice
    )
  })
  if (kept.length === 0) return []
  const rows = kept.map(({ of: { version }, judged: { findings: found, names: _, ...rest } }) => ({
    ...withoutGenerated(version),
    ...rest,
    ...countsOf(found),
    offered: offeredNames(found)[0] ?? null,
    state: 'judged' as const,
    judgedWith: JUDGE_VERSION,
    fault: null,
  }))
  const columns = {
    state: sql`excluded.state`,
    judgedWith: sql`excluded.judged_with`,
    fault: sql`excluded.fault`,
    shownName: sql`excluded.shown_name`,
    className: sql`excluded.class_name`,
    tally: sql`excluded.tally`,
    verdict: sql`excluded.verdict`,
    headline: sql`excluded.headline`,
    stops: sql`excluded.stops`,
    cautions: sql`excluded.cautions`,
    notes: sql`excluded.notes`,
    waived: sql`excluded.waived`,
    stations: sql`excluded.stations`,
    offered: sql`excluded.offered`,
    thumbnail: sql`excluded.thumbnail`,
    outputKey: sql`excluded.output_key`,
    outputFault: sql`excluded.output_fault`,
  }
  await tx.insert(versions).values(rows).onConflictDoUpdate({ target: versions.id, set: columns })
  await tx.delete(findings).where(
    inArray(
      findings.versionId,
      rows.map((r) => r.id),
    ),
  )
  const found = kept.flatMap(({ of, judged }) =>
    judged.findings.map((f) => ({
      versionId: of.version.id,
      rule: f.rule,
      station: f.station,
      level: f.level,
      fingerprint: f.fingerprint,
      waived: !counts(f),
      offers: [...new Set(f.remedies.map((r) => r.remedy))],
      body: f,
    })),
  )
  for (let k = 0; k < found.length; k += ROWS) await tx.insert(findings).values(found.slice(k, k + ROWS))
  await saveNames(tx, kept)
  return kept.map((j) => j.of.asset.id)
}

/** Findings by level, and the stations that have any as bits. */
function countsOf(
  all: readonly Finding[],
): Record<'stops' | 'cautions' | 'notes' | 'waived' | 'stations', number> {
  const found = all.filter(counts),
    count = (level: Finding['level']): number => found.filter((f) => f.level === level).length
  return {
    stops: count('stop'),
    cautions: count('caution'),
    notes: count('note'),
    waived: all.length - found.length,
    stations: found.reduce((bits, f) => bits | stationBit(f.station), 0),
  }
}

function withoutGenerated({ family: _, ...version }: VersionRecord): Omit<VersionRecord, 'family'> {
  return version
}

/** Names and files of assets in place of those before, for the search. */
async function saveNames(
  tx: Transaction,
  kept: readonly { of: Judgeable; judged: JudgedVersion }[],
): Promise<void> {
  await tx.delete(assetNames).where(
    inArray(
      assetNames.assetId,
      kept.map((j) => j.of.asset.id),
    ),
  )
  const rows = kept.flatMap(({ of: { asset, files }, judged: { names } }) => [
    ...names.map(({ what, name }) => ({ assetId: asset.id, what, name })),
    ...files.map(({ path }) => ({ assetId: asset.id, what: 'file' as const, name: path })),
  ])
  for (let k = 0; k < rows.length; k += ROWS) await tx.insert(assetNames).values(rows.slice(k, k + ROWS))
}

/** Rows that go into one statement: its parameters are numbered by 16 bits. */
const ROWS = 1000
