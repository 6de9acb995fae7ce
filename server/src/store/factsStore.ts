import { and, eq, inArray, isNotNull, like, ne, notExists, or, sql } from 'drizzle-orm'
import * as z from 'zod'
import {
  faultSchema,
  meshFactsSchema,
  standardFactsSchema,
  textureFactsSchema,
  storedErrorSchema,
  usedFactsSchema,
  type StandardFacts,
  type StoredError,
  type UsedFacts,
  type FileKind,
} from '@stern-gate/contract'
import { fileMeasures, JUDGE_VERSION, measureOfKind } from '@stern-gate/core'
import type { Queryable } from './database'
import { assets, facts, versionFiles, versions } from './schema'

const anyFacts = z.discriminatedUnion('kind', [meshFactsSchema, textureFactsSchema])

/** What is kept for a file: its facts and those of the pictures inside it, or why it was refused. */
export const keptFactsSchema = z.strictObject({
  kind: z.string(),
  facts: anyFacts.nullable(),
  embedded: z.record(z.string(), z.union([textureFactsSchema, faultSchema])),
  fault: faultSchema.nullable(),
  used: z.record(z.string(), usedFactsSchema.nullable()).default({}).describe('see MeasuredFile'),
  stored: z.record(z.string(), storedErrorSchema).default({}).describe('see MeasuredFile'),
})
export type KeptFacts = z.infer<typeof keptFactsSchema>

/** Facts of the newest measure of their kind of file. */
const isFresh = sql`(${facts.measure}, ${facts.version}) in (${sql.join(
  fileMeasures.map(({ measure, version }) => sql`(${measure}::text, ${version}::int)`),
  sql`, `,
)})`
const ofFiles = inArray(
  facts.measure,
  fileMeasures.map((m) => m.measure),
)
const WHOLE_FILE = 'file'

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

/** Scopes of what is measured of a texture later; the key of a `usedMask` or a `wantedError` stands behind. */
const USED = 'used:',
  STORED = 'stored:'
const keptUsedSchema = z.strictObject({ used: usedFactsSchema.nullable() })

const saveLater = (db: Queryable, key: string, scope: string, body: object): Promise<unknown> =>
  db
    .insert(facts)
    .values({ key, scope, ...measureOfKind('png'), body })
    .onConflictDoNothing()

/** Keeps the figures of a texture over the part that a mask stands for; null: hardly anything is used. */
export const saveUsed = (
  db: Queryable,
  key: string,
  mask: string,
  used: UsedFacts | null,
): Promise<unknown> => saveLater(db, key, USED + mask, { used })

/** Keeps what a texture loses in the format of a target. */
export const saveStoredError = (
  db: Queryable,
  key: string,
  wanted: string,
  error: StoredError,
): Promise<unknown> => saveLater(db, key, STORED + wanted, error)

/** What was measured of textures later, by the key of their facts. */
async function findLater(
  db: Queryable,
  keys: readonly string[],
): Promise<Map<string, Pick<KeptFacts, 'used' | 'stored'>>> {
  const rows = await db
    .select({ key: facts.key, scope: facts.scope, body: facts.body })
    .from(facts)
    .where(
      and(
        inArray(facts.key, [...keys]),
        or(like(facts.scope, `${USED}%`), like(facts.scope, `${STORED}%`)),
        isFresh,
      ),
    )
  const found = new Map<string, Pick<KeptFacts, 'used' | 'stored'>>()
  for (const { key, scope, body } of rows) {
    const known = found.get(key) ?? { used: {}, stored: {} }
    found.set(key, known)
    if (scope.startsWith(USED)) known.used[scope.slice(USED.length)] = keptUsedSchema.parse(body).used
    else known.stored[scope.slice(STORED.length)] = storedErrorSchema.parse(body)
  }
  return found
}

export interface FactsRow {
  key: string
  /** Measured by the newest measures; else it is what an older one said, until it is replaced. */
  fresh: boolean
  kept: KeptFacts
  /** What the open standard's validator says; null: it has not looked. */
  standard: StandardFacts | null
  evidence: string | null
  thumbnail: string | null
}

export async function saveFacts(db: Queryable, row: FactsRow): Promise<void> {
  const values = {
    key: row.key,
    scope: WHOLE_FILE,
    ...measureOfKind(row.kept.kind as FileKind),
    body: row.kept,
    evidence: row.evidence,
    thumbnail: row.thumbnail,
  }
  await db.insert(facts).values(values).onConflictDoNothing()
}

/** Assets whose newest version has a file without facts of the newest measure, or was judged by older rules. */
export async function listOutdatedAssets(db: Queryable): Promise<string[]> {
  const fresh = db
    .select({ one: sql`1` })
    .from(facts)
    .where(and(eq(facts.key, versionFiles.factsKey), eq(facts.scope, WHOLE_FILE), isFresh))
  const rows = await db
    .selectDistinct({ id: assets.id })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion)))
    .innerJoin(versionFiles, eq(versionFiles.versionId, versions.id))
    .where(and(isNotNull(versionFiles.factsKey), notExists(fresh)))
  const judged = await db
    .select({ id: assets.id })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion)))
    .where(and(eq(versions.state, 'judged'), ne(versions.judgedWith, JUDGE_VERSION)))
  return [...rows, ...judged].map((r) => r.id)
}

/**
 * Facts by key; keys that were never measured are not in the answer. Where the newest measures have not looked
 * yet, what the one before them said, as far as it can still be read.
 */
export async function findFacts(db: Queryable, keys: readonly string[]): Promise<Map<string, FactsRow>> {
  if (keys.length === 0) return new Map()
  const rows = await db
    .select({ facts, fresh: sql<boolean>`${isFresh}` })
    .from(facts)
    .where(and(inArray(facts.key, [...keys]), eq(facts.scope, WHOLE_FILE), ofFiles))
    .orderBy(sql`${isFresh}`, facts.version)
  const standard = await findStandard(db, keys),
    later = await findLater(db, keys)
  const found = new Map<string, FactsRow>()
  // The newest come last and take the place of older ones
  for (const { facts: row, fresh } of rows) {
    const kept = fresh ? keptFactsSchema.parse(row.body) : keptFactsSchema.safeParse(row.body).data
    if (!kept) continue
    found.set(row.key, {
      key: row.key,
      fresh,
      kept: {
        ...kept,
        used: { ...kept.used, ...later.get(row.key)?.used },
        stored: { ...kept.stored, ...later.get(row.key)?.stored },
      },
      standard: standard.get(row.key) ?? null,
      evidence: row.evidence,
      thumbnail: row.thumbnail,
    })
  }
  return found
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
        declared: true,
        clips: true,
      }),
      overview: meshFactsSchema.shape.overview,
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
  const few = sql<unknown>`case ${own}->>'kind' when 'mesh' then jsonb_build_object('kind', 'mesh', 'file', jsonb_build_object('buffers', ${own}#>'{file,buffers}', 'companions', ${own}#>'{file,companions}', 'images', ${own}#>'{file,images}', 'generator', ${own}#>'{file,generator}', 'declared', ${own}#>'{file,declared}', 'clips', ${own}#>'{file,clips}'), 'overview', ${own}->'overview') when 'texture' then '{"kind":"texture"}'::jsonb end`
  const rows = await db
    .select({ key: facts.key, kind: sql<string>`${facts.body}->>'kind'`, few })
    .from(facts)
    .where(and(inArray(facts.key, [...keys]), eq(facts.scope, WHOLE_FILE), isFresh))
  return new Map(rows.map((r) => [r.key, { kind: r.kind, facts: assemblyFactsSchema.parse(r.few) }]))
}
