import { desc, eq, sql } from 'drizzle-orm'
import {
  faultSchema,
  leftBehindSchema,
  manifestSchema,
  type Dispatch,
  type DispatchDetail,
  type Fault,
  type LeftBehind,
  type Manifest,
} from '@stern-gate/contract'
import type { Database, Queryable } from './database'
import { dispatches } from './schema'

export type DispatchRow = typeof dispatches.$inferSelect

export interface NewDispatchRow {
  projectId: string
  target: string
  note: string
  by: string
  /** Ids of the assets; null: all of the project. */
  chosen: readonly string[] | null
  encode: boolean
}

/** Begins a dispatch with the next number of its project. */
export const createDispatch = (tx: Queryable, row: NewDispatchRow): Promise<DispatchRow> =>
  tx
    .execute(sql`select pg_advisory_xact_lock(hashtext(${`dispatch ${row.projectId}`}))`)
    .then(() =>
      tx
        .insert(dispatches)
        .values({
          ...row,
          number: sql<number>`(select coalesce(max(number), 0) + 1 from dispatches where project_id = ${row.projectId})`,
          state: 'waiting',
        })
        .returning(),
    )
    .then(([made]) => made!)

export async function findDispatch(db: Queryable, id: string): Promise<DispatchRow | null> {
  const [row] = await db.select().from(dispatches).where(eq(dispatches.id, id))
  return row ?? null
}

const few = {
  id: dispatches.id,
  number: dispatches.number,
  note: dispatches.note,
  by: dispatches.by,
  target: dispatches.target,
  state: dispatches.state,
  encode: dispatches.encode,
  packed: dispatches.packed,
  total: dispatches.total,
  sha256: dispatches.sha256,
  sizeBytes: dispatches.sizeBytes,
  fault: dispatches.fault,
  created: dispatches.created,
  // The manifest of a large package is megabytes; a list counts what is in it
  assets: sql<number>`coalesce(jsonb_array_length(${dispatches.manifest}->'assets'), 0)`,
  files: sql<number>`coalesce((
    select sum(jsonb_array_length(asset->'files'))::int
    from jsonb_array_elements(${dispatches.manifest}->'assets') as asset
  ), 0)`,
  held: sql<number>`jsonb_array_length(${dispatches.held})`,
}

/** The newest dispatches of a project. */
export async function listDispatches(db: Queryable, projectId: string, limit: number): Promise<Dispatch[]> {
  const rows = await db
    .select(few)
    .from(dispatches)
    .where(eq(dispatches.projectId, projectId))
    .orderBy(desc(dispatches.number))
    .limit(limit)
  return rows.map(replyOf)
}

/** One of them with all that is in it. */
export async function getDispatchDetail(db: Queryable, id: string): Promise<DispatchDetail | null> {
  const [row] = await db
    .select({ ...few, manifest: dispatches.manifest, leftBehind: dispatches.held })
    .from(dispatches)
    .where(eq(dispatches.id, id))
  if (!row) return null
  const { manifest, leftBehind, ...rest } = row
  return {
    ...replyOf(rest),
    leftBehind: leftBehindSchema.array().parse(leftBehind),
    contents: manifest === null ? [] : manifestSchema.parse(manifest).assets,
  }
}

function replyOf({
  fault,
  created,
  ...row
}: Omit<Dispatch, 'fault' | 'created'> & { fault: unknown; created: string }): Dispatch {
  return {
    ...row,
    fault: fault === null ? null : faultSchema.parse(fault),
    created: new Date(created).toISOString(),
  }
}

/** What came of packing. */
export type Packed =
  | { state: 'done'; manifest: Manifest; sha256: string; sizeBytes: number; held: LeftBehind[] }
  | { state: 'failed'; fault: Fault; held: LeftBehind[] }

export const notePacking = (db: Queryable, id: string, packed: number, total: number): Promise<unknown> =>
  db.update(dispatches).set({ state: 'packing', packed, total }).where(eq(dispatches.id, id))

export const savePacked = (db: Queryable, id: string, packed: Packed): Promise<unknown> =>
  db.update(dispatches).set(packed).where(eq(dispatches.id, id))

/** Ids of a project's assets in the order of a package: by kind and name. */
export async function listAssetsToPack(db: Database, projectId: string): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(
    sql`select id from assets where project_id = ${projectId} order by kind, name collate "C", id`,
  )
  return rows.map((r) => r.id)
}
