import { eq } from 'drizzle-orm'
import * as z from 'zod'
import { filePartSchema, stepResultSchema, type StepResult } from '@stern-gate/contract'
import type { Queryable } from './database'
import { outputs } from './schema'

export const outputFileSchema = z.strictObject({
  path: z.string(),
  part: filePartSchema,
  sha256: z.string(),
  sizeBytes: z.number(),
  kind: z.string(),
  factsKey: z.string(),
})
export type OutputFileRecord = z.infer<typeof outputFileSchema>

/** What a recipe made; it can always be made again. */
export interface OutputRecord {
  key: string
  /** The name that a step gave the asset; null: it keeps its own. */
  renamed: string | null
  main: string
  results: StepResult[]
  files: OutputFileRecord[]
  thumbnail: string | null
  evidence: string | null
}

export async function findOutput(db: Queryable, key: string): Promise<OutputRecord | null> {
  const [row] = await db.select().from(outputs).where(eq(outputs.key, key))
  if (!row) return null
  return {
    key: row.key,
    renamed: row.renamed,
    main: row.main,
    results: stepResultSchema.array().parse(row.results),
    files: outputFileSchema.array().parse(row.files),
    thumbnail: row.thumbnail,
    evidence: row.evidence,
  }
}

export const saveOutput = (db: Queryable, output: OutputRecord): Promise<unknown> =>
  db.insert(outputs).values(output).onConflictDoNothing()

/** Notes what a new measure drew and marked of an output. */
export const saveMeasuredOutput = (
  db: Queryable,
  { key, ...drawn }: Pick<OutputRecord, 'key' | 'thumbnail' | 'evidence'>,
): Promise<unknown> => db.update(outputs).set(drawn).where(eq(outputs.key, key))
