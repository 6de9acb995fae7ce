import { sql } from 'drizzle-orm'
import type { BlobStore } from '../store/blobStore'
import type { Database } from '../store/database'
import { isReferenced, listReferences } from './blobReferences'

/** What is old enough to be taken away where nothing refers to it: an upload of today may still get its row. */
const GRACE_MS = 24 * 3_600_000
/** Outputs that no recipe makes any more are previews and steps that were taken back. */
const OUTPUT_DAYS = 7
const EVENT_DAYS = 30

export interface Health {
  /** Stored files that nothing refers to, and their bytes; those within the grace period are not counted. */
  orphans: { sha256: string; sizeBytes: number }[]
  /** Files that something refers to and that are not stored. */
  missing: { sha256: string; owner: string }[]
  stored: number
}

interface CareServices {
  db: Database
  store: BlobStore
}

/** Looks at every stored file and every reference; nothing is changed. */
export async function examine({ db, store }: CareServices, now = Date.now()): Promise<Health> {
  // Files first: what is stored and noted meanwhile then has its reference
  const there = await store.list()
  const wanted = await listReferences(db),
    stored = new Set(there.map((f) => f.sha256))
  return {
    orphans: there
      .filter((f) => !wanted.has(f.sha256) && now - f.changedMs > GRACE_MS)
      .map(({ sha256, sizeBytes }) => ({ sha256, sizeBytes })),
    missing: [...wanted]
      .filter(([sha256]) => !stored.has(sha256))
      .map(([sha256, owner]) => ({ sha256, owner })),
    stored: there.length,
  }
}

/** What was taken away. */
export interface Collected {
  outputs: number
  events: number
  facts: number
  files: number
  bytes: number
}

/**
 * Takes away what nothing needs any more: outputs of recipes that are no longer, their facts and those that newer
 * ones replaced,
 * old events, then stored files that nothing refers to. Safe beside a running server.
 */
export async function collect(services: CareServices, now = Date.now()): Promise<Collected> {
  const { db, store } = services
  const outputs = await db.execute(sql`
    delete from outputs where created < now() - make_interval(days => ${OUTPUT_DAYS})
      and not exists (select 1 from versions v where v.output_key = outputs.key)`)
  await db.execute(sql`
    delete from encodings where created < now() - make_interval(days => ${OUTPUT_DAYS})`)
  const facts = await db.execute(sql`
    delete from facts as older using facts as newer
    where older.key = newer.key and older.scope = newer.scope and older.measure = newer.measure
      and older.version < newer.version and newer.created < now() - interval '1 day'`)
  const nobodys = await db.execute(sql`
    delete from facts where created < now() - make_interval(days => ${OUTPUT_DAYS})
      and not exists (select 1 from version_files f where f.facts_key = facts.key)
      and not exists (select 1 from delivery_files f where f.facts_key = facts.key)
      and not exists (select 1 from outputs, jsonb_array_elements(files) as file where file->>'factsKey' = facts.key)`)
  const events = await db.execute(
    sql`delete from events where created < now() - make_interval(days => ${EVENT_DAYS})`,
  )
  const { orphans } = await examine(services, now)
  let files = 0,
    bytes = 0
  for (const { sha256, sizeBytes } of orphans) {
    // What was stored once more meanwhile is young again, and somebody may just have noted it
    const changed = await store.changedMs(sha256)
    if (changed === null || now - changed <= GRACE_MS || (await isReferenced(db, sha256))) continue
    await store.remove(sha256)
    files++
    bytes += sizeBytes
  }
  return {
    outputs: outputs.rowCount ?? 0,
    events: events.rowCount ?? 0,
    facts: (facts.rowCount ?? 0) + (nobodys.rowCount ?? 0),
    files,
    bytes,
  }
}
