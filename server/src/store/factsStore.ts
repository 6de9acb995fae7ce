import { and, eq, inArray, isNotNull, notExists, sql } from 'drizzle-orm'
import * as z from 'zod'
import {
  faultSchema,
  meshFactsSchema,
  standardFactsSchema,
  textureFactsSchema,
  type StandardFacts,
} from '@stern-gate/contract'
import { measureVersions } from '@stern-gate/core'
import type { Queryable } from './database'
import { assets, facts, versionFiles, versions } from './schema'

const anyFacts = z.discriminatedUnion('kind', [meshFactsSchema, textureFactsSchema])

/** What is kept for a file: its facts and those of the pictures inside it, or why it was refused. */
export const keptFactsSchema = z.strictObject({
  kind: z.string(),
  facts: anyFacts.nullable(),
  embedded: z.record(z.string(), z.union([textureFactsSchema, faultSchema])),
  fault: faultSchema.nullable(),
})
export type KeptFacts = z.infer<typeof keptFactsSchema>

/** Raised whenever any measure changes: older rows are then measured anew. */
const VERSION = measureVersions.mesh * 10000 + measureVersions.texture * 100 + measureVersions.thumbnail

/** Of what the open standard's validator says. */
const STANDARD = 'standard',
  STANDARD_VERSION = 1

/** Keeps what the validator found in a file. */
export async function saveStandard(db: Queryable, key: string, body: StandardFacts): Promise<void> {
  await db
    .insert(facts)
    .values({ key, measure: STANDARD, version: STANDARD_VERSION, body })
    .onConflictDoNothing()
}

async function findStandard(db: Queryable, keys: readonly string[]): Promise<Map<string, StandardFacts>> {
  const rows = await db
    .select({ key: facts.key, body: facts.body })
    .from(facts)
    .where(
      and(inArray(facts.key, [...keys]), eq(facts.measure, STANDARD), eq(facts.version, STANDARD_VERSION)),
    )
  return new Map(rows.map((r) => [r.key, standardFactsSchema.parse(r.body)]))
}

export interface FactsRow {
  key: string
  kept: KeptFacts
  /** What the open standard's validator says; null: it has not looked. */
  standard: StandardFacts | null
  evidence: string | null
  thumbnail: string | null
}

export async function saveFacts(db: Queryable, row: FactsRow): Promise<void> {
  const values = {
    key: row.key,
    measure: 'file',
    version: VERSION,
    body: row.kept,
    evidence: row.evidence,
    thumbnail: row.thumbnail,
  }
  await db.insert(facts).values(values).onConflictDoNothing()
}

/** Assets whose newest version has a file without facts of the newest measure. */
export async function listOutdatedAssets(db: Queryable): Promise<string[]> {
  const fresh = db
    .select({ one: sql`1` })
    .from(facts)
    .where(and(eq(facts.key, versionFiles.factsKey), eq(facts.measure, 'file'), eq(facts.version, VERSION)))
  const rows = await db
    .selectDistinct({ id: assets.id })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion)))
    .innerJoin(versionFiles, eq(versionFiles.versionId, versions.id))
    .where(and(isNotNull(versionFiles.factsKey), notExists(fresh)))
  return rows.map((r) => r.id)
}

/** Facts by key; keys that were never measured, or by an older measure, are not in the answer. */
export async function findFacts(db: Queryable, keys: readonly string[]): Promise<Map<string, FactsRow>> {
  if (keys.length === 0) return new Map()
  const rows = await db
    .select()
    .from(facts)
    .where(and(inArray(facts.key, [...keys]), eq(facts.measure, 'file'), eq(facts.version, VERSION)))
  const standard = await findStandard(db, keys)
  return new Map(
    rows.map((r) => [
      r.key,
      {
        key: r.key,
        kept: keptFactsSchema.parse(r.body),
        standard: standard.get(r.key) ?? null,
        evidence: r.evidence,
        thumbnail: r.thumbnail,
      },
    ]),
  )
}

const assemblyFactsSchema = z
  .discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('mesh'),
      file: meshFactsSchema.shape.file.pick({
        buffers: true,
        companions: true,
        images: true,
        generator: true,
      }),
    }),
    z.strictObject({ kind: z.literal('texture') }),
  ])
  .nullable()

/** What grouping the files of a delivery needs of their facts. */
export type AssemblyFacts = { kind: string; facts: z.infer<typeof assemblyFactsSchema> }

/**
 * The few facts that tell which files belong together, by key: of a delivery of thousands the rest is neither
 * read nor parsed.
 */
export async function findAssemblyFacts(
  db: Queryable,
  keys: readonly string[],
): Promise<Map<string, AssemblyFacts>> {
  if (keys.length === 0) return new Map()
  const own = sql`${facts.body}->'facts'`
  const few = sql<unknown>`case ${own}->>'kind' when 'mesh' then jsonb_build_object('kind', 'mesh', 'file', jsonb_build_object('buffers', ${own}#>'{file,buffers}', 'companions', ${own}#>'{file,companions}', 'images', ${own}#>'{file,images}', 'generator', ${own}#>'{file,generator}')) when 'texture' then '{"kind":"texture"}'::jsonb end`
  const rows = await db
    .select({ key: facts.key, kind: sql<string>`${facts.body}->>'kind'`, few })
    .from(facts)
    .where(and(inArray(facts.key, [...keys]), eq(facts.measure, 'file'), eq(facts.version, VERSION)))
  return new Map(rows.map((r) => [r.key, { kind: r.kind, facts: assemblyFactsSchema.parse(r.few) }]))
}
