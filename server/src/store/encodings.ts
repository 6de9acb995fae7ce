import { eq, inArray } from 'drizzle-orm'
import { encodingFactsSchema, type EncodingFacts } from '@stern-gate/contract'
import type { Queryable } from './database'
import { encodings } from './schema'

export interface EncodingRecord {
  key: string
  source: string
  facts: EncodingFacts
  file: string
  picture: string
}

const recordOf = ({ facts, ...row }: typeof encodings.$inferSelect): EncodingRecord => ({
  ...row,
  facts: encodingFactsSchema.parse(facts),
})

export async function findEncoding(db: Queryable, key: string): Promise<EncodingRecord | null> {
  const [row] = await db.select().from(encodings).where(eq(encodings.key, key))
  return row ? recordOf(row) : null
}

/** What was encoded of these textures, the oldest first. */
export async function listEncodings(db: Queryable, sources: readonly string[]): Promise<EncodingRecord[]> {
  if (sources.length === 0) return []
  const rows = await db
    .select()
    .from(encodings)
    .where(inArray(encodings.source, [...sources]))
    .orderBy(encodings.created)
  return rows.map(recordOf)
}

export const saveEncoding = (db: Queryable, record: EncodingRecord): Promise<unknown> =>
  db.insert(encodings).values(record).onConflictDoNothing()
