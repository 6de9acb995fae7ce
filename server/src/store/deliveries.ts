import { and, desc, eq, inArray, isNotNull, or, sql } from 'drizzle-orm'
import {
  deliverySchema,
  faultSchema,
  type Delivery,
  type DeliveryFile,
  type DeliveryState,
  type Fault,
  type FileState,
  type Intake,
} from '@stern-gate/contract'
import type { VersionFileRecord } from './assets'
import type { Database, Queryable } from './database'
import { blobs, deliveries, deliveryFiles } from './schema'

export type DeliveryRow = typeof deliveries.$inferSelect
export type DeliveryFileRow = typeof deliveryFiles.$inferSelect

/** A stored file as a delivery is given it. */
export type GivenFile = Pick<VersionFileRecord, 'path' | 'sha256' | 'sizeBytes' | 'kind'>

/** Begins a delivery with the next number of its project. */
export async function createDelivery(
  db: Database,
  projectId: string,
  note: string,
  by: string,
  more: { arrived?: string; intake?: Intake; files?: readonly GivenFile[] } = {},
): Promise<DeliveryRow> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`delivery ${projectId}`}))`)
    const [last] = await tx
      .select({ n: sql<number>`coalesce(max(${deliveries.number}), 0)::int` })
      .from(deliveries)
      .where(eq(deliveries.projectId, projectId))
    const [row] = await tx
      .insert(deliveries)
      .values({
        projectId,
        number: (last?.n ?? 0) + 1,
        note,
        by,
        state: 'receiving',
        ...(more.arrived ? { created: more.arrived } : {}),
        ...(more.intake ? { intake: more.intake } : {}),
      })
      .returning()
    await copyVersionFiles(tx, row!.id, more.files ?? [])
    return row!
  })
}

export async function findDelivery(db: Queryable, id: string): Promise<DeliveryRow | null> {
  const [row] = await db.select().from(deliveries).where(eq(deliveries.id, id))
  return row ?? null
}

export const setDeliveryIntake = (db: Queryable, id: string, intake: Intake | null): Promise<unknown> =>
  db.update(deliveries).set({ intake, suggested: null }).where(eq(deliveries.id, id))
export const suggestIntake = (db: Queryable, id: string, preset: string): Promise<unknown> =>
  db.update(deliveries).set({ suggested: preset }).where(eq(deliveries.id, id))

/**
 * Moves a delivery on, if it is still in one of the states it may come from; whoever is second finds that it
 * moved already.
 */
export async function moveDelivery(
  db: Queryable,
  id: string,
  from: readonly DeliveryState[],
  to: DeliveryState,
): Promise<boolean> {
  const moved = await db
    .update(deliveries)
    .set({ state: to })
    .where(and(eq(deliveries.id, id), inArray(deliveries.state, [...from])))
    .returning({ id: deliveries.id })
  return moved.length > 0
}

/** Files that wait to be measured, the small ones first: the first verdicts come soon. */
export async function listWaitingFiles(db: Queryable, deliveryId: string): Promise<string[]> {
  const rows = await db
    .select({ id: deliveryFiles.id })
    .from(deliveryFiles)
    .where(and(eq(deliveryFiles.deliveryId, deliveryId), eq(deliveryFiles.state, 'waiting')))
    .orderBy(deliveryFiles.sizeBytes, deliveryFiles.path)
  return rows.map((r) => r.id)
}

/** Files that were not measured yet stay unmeasured. */
export const setAsideWaiting = (db: Queryable, deliveryId: string): Promise<unknown> =>
  db
    .update(deliveryFiles)
    .set({ state: 'set-aside' })
    .where(and(eq(deliveryFiles.deliveryId, deliveryId), eq(deliveryFiles.state, 'waiting')))

export interface ArrivedFile {
  path: string
  sha256: string | null
  sizeBytes: number
  kind: string
  state: FileState
  fault: Fault | null
}

/**
 * Notes arrived files, if the delivery still takes any: null when it was closed or cancelled in the meantime.
 * Closing waits until this is committed. The same path again replaces a file.
 */
export async function saveFiles(
  db: Database,
  deliveryId: string,
  files: readonly ArrivedFile[],
): Promise<DeliveryFileRow[] | null> {
  return db.transaction(async (tx) => {
    const [open] = await tx
      .select({ state: deliveries.state })
      .from(deliveries)
      .where(eq(deliveries.id, deliveryId))
      .for('share')
    if (open?.state !== 'receiving') return null
    const rows: DeliveryFileRow[] = []
    const newest = [...new Map(files.map((f) => [f.path, { ...f, deliveryId }])).values()]
    for (let k = 0; k < newest.length; k += ROWS) {
      const some = newest.slice(k, k + ROWS)
      const stored = some.flatMap(({ sha256, sizeBytes, kind }) =>
        sha256 === null ? [] : [{ sha256, sizeBytes, kind }],
      )
      if (stored.length > 0) await tx.insert(blobs).values(stored.sort(bySha)).onConflictDoNothing()
      rows.push(
        ...(await tx
          .insert(deliveryFiles)
          .values(some)
          .onConflictDoUpdate({ target: [deliveryFiles.deliveryId, deliveryFiles.path], set: arrived })
          .returning()),
      )
    }
    return rows
  })
}

/** Rows that go into one statement: its parameters are numbered by 16 bits. */
const ROWS = 1000
/** In one order, so that two deliveries with the same files do not wait for each other in a ring. */
const bySha = (a: { sha256: string }, b: { sha256: string }): number => (a.sha256 < b.sha256 ? -1 : 1)
const arrived = {
  sha256: sql`excluded.sha256`,
  sizeBytes: sql`excluded.size_bytes`,
  kind: sql`excluded.kind`,
  state: sql`excluded.state`,
  fault: sql`excluded.fault`,
  factsKey: sql`null`,
}

/**
 * Puts the files of an asset's newest version into a delivery, so that what is sent to it completes them.
 * They wait as if they had come anew: what a mesh says may hang on what comes.
 */
async function copyVersionFiles(
  db: Queryable,
  deliveryId: string,
  files: readonly GivenFile[],
): Promise<void> {
  if (files.length === 0) return
  await db
    .insert(deliveryFiles)
    .values(
      files.map(({ path, sha256, sizeBytes, kind }) => ({
        deliveryId,
        path,
        sha256,
        sizeBytes,
        kind,
        state: 'waiting' as const,
      })),
    )
    .onConflictDoNothing()
}

/**
 * Puts files into a delivery that were made of one of its own; they wait to be measured. Gives the ids of those that
 * wait: the same file again, measured before, stays as it is.
 */
export async function addDerivedFiles(
  db: Queryable,
  deliveryId: string,
  sceneId: string,
  files: readonly GivenFile[],
): Promise<string[]> {
  const ids: string[] = []
  for (let k = 0; k < files.length; k += ROWS) {
    const some = files.slice(k, k + ROWS)
    await db
      .insert(blobs)
      .values(some.map(({ sha256, sizeBytes, kind }) => ({ sha256, sizeBytes, kind })).sort(bySha))
      .onConflictDoNothing()
    const rows = await db
      .insert(deliveryFiles)
      .values(some.map((f) => ({ ...f, deliveryId, sceneId, state: 'waiting' as const })))
      .onConflictDoUpdate({
        target: [deliveryFiles.deliveryId, deliveryFiles.path],
        set: { ...arrived, sceneId: sql`excluded.scene_id` },
      })
      .returning({ id: deliveryFiles.id })
    ids.push(...rows.map((r) => r.id))
  }
  return ids
}

/** Sets files of a delivery aside, each with why. */
export async function setFilesAside(
  db: Queryable,
  deliveryId: string,
  aside: readonly { path: string; fault: Fault }[],
): Promise<void> {
  for (const { path, fault } of aside)
    await db
      .update(deliveryFiles)
      .set({ state: 'set-aside', fault })
      .where(and(eq(deliveryFiles.deliveryId, deliveryId), eq(deliveryFiles.path, path)))
}

export const listFiles = (db: Queryable, deliveryId: string): Promise<DeliveryFileRow[]> =>
  db.select().from(deliveryFiles).where(eq(deliveryFiles.deliveryId, deliveryId)).orderBy(deliveryFiles.path)

/** What a measurement asks of the files around it. */
export interface FileBeside {
  id: string
  path: string
  sha256: string
}

export const listFilesBeside = (db: Queryable, deliveryId: string): Promise<FileBeside[]> =>
  db
    .select({ id: deliveryFiles.id, path: deliveryFiles.path, sha256: sql<string>`${deliveryFiles.sha256}` })
    .from(deliveryFiles)
    .where(and(eq(deliveryFiles.deliveryId, deliveryId), isNotNull(deliveryFiles.sha256)))
    .orderBy(deliveryFiles.path)

export async function findFile(
  db: Queryable,
  id: string,
): Promise<{ file: DeliveryFileRow; delivery: DeliveryRow } | null> {
  const [row] = await db
    .select({ file: deliveryFiles, delivery: deliveries })
    .from(deliveryFiles)
    .innerJoin(deliveries, eq(deliveries.id, deliveryFiles.deliveryId))
    .where(eq(deliveryFiles.id, id))
  return row ?? null
}

export interface FileChange {
  state: FileState
  fault?: Fault | null
  kind?: string
  factsKey?: string | null
}

/** The statement that changes a file; it is run when awaited, or as a part of another one. */
export const fileChange = (db: Queryable, id: string, change: FileChange) =>
  db.update(deliveryFiles).set(change).where(eq(deliveryFiles.id, id)).returning({ id: deliveryFiles.id })

/** How many files of a delivery are still to be measured. */
export async function countOpenFiles(db: Queryable, deliveryId: string): Promise<number> {
  const [row] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(deliveryFiles)
    .where(
      and(eq(deliveryFiles.deliveryId, deliveryId), inArray(deliveryFiles.state, ['waiting', 'measuring'])),
    )
  return row?.n ?? 0
}

/** Deliveries with their progress, newest first. */
export async function listDeliveries(db: Queryable, projectId: string, limit: number): Promise<Delivery[]> {
  const rows = await db
    .select()
    .from(deliveries)
    .where(eq(deliveries.projectId, projectId))
    .orderBy(desc(deliveries.number))
    .limit(limit)
  return Promise.all(rows.map((row) => withProgress(db, row)))
}

/** One delivery with its progress by files and bytes, and what was refused. */
export async function withProgress(db: Queryable, row: DeliveryRow): Promise<Delivery> {
  const done = sql`${deliveryFiles.state} in ('measured', 'refused', 'set-aside', 'apart')`
  const [sum] = await db
    .select({
      files: sql<number>`count(*)::int`,
      bytes: sql<number>`coalesce(sum(${deliveryFiles.sizeBytes}), 0)::float8`,
      done: sql<number>`count(*) filter (where ${done})::int`,
      bytesDone: sql<number>`coalesce(sum(${deliveryFiles.sizeBytes}) filter (where ${done}), 0)::float8`,
    })
    .from(deliveryFiles)
    .where(eq(deliveryFiles.deliveryId, row.id))
  const told = await db
    .select()
    .from(deliveryFiles)
    .where(
      and(
        eq(deliveryFiles.deliveryId, row.id),
        or(
          eq(deliveryFiles.state, 'refused'),
          and(eq(deliveryFiles.state, 'set-aside'), isNotNull(deliveryFiles.fault)),
        ),
      ),
    )
    .orderBy(deliveryFiles.path)
    .limit(400)
  return deliverySchema.parse({
    id: row.id,
    number: row.number,
    note: row.note,
    by: row.by,
    state: row.state,
    created: new Date(row.created).toISOString(),
    ...(sum ?? { files: 0, bytes: 0, done: 0, bytesDone: 0 }),
    refused: told.filter((f) => f.state === 'refused').map(fileReply),
    setAside: told.filter((f) => f.state === 'set-aside').map(fileReply),
    intake: row.intake,
    suggested: row.suggested,
  })
}

/** A row as the API shows it. */
export const fileReply = (row: DeliveryFileRow): DeliveryFile => ({
  id: row.id,
  path: row.path,
  sizeBytes: row.sizeBytes,
  state: row.state,
  fault: row.fault === null ? null : faultSchema.parse(row.fault),
})
