import { and, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import {
  deliverySchema,
  faultSchema,
  type Delivery,
  type DeliveryFile,
  type Fault,
  type FileState,
  type Intake,
} from '@stern-gate/contract'
import type { VersionFileRecord } from './assets'
import type { Database, Queryable } from './database'
import { blobs, deliveries, deliveryFiles, intakePresets } from './schema'

export type DeliveryRow = typeof deliveries.$inferSelect
export type DeliveryFileRow = typeof deliveryFiles.$inferSelect

/** Begins a delivery with the next number of its project. */
export async function createDelivery(
  db: Database,
  projectId: string,
  note: string,
  by: string,
  more: { arrived?: string; intake?: Intake } = {},
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

export const setDeliveryState = (db: Queryable, id: string, state: string): Promise<unknown> =>
  db.update(deliveries).set({ state }).where(eq(deliveries.id, id))

export interface ArrivedFile {
  deliveryId: string
  path: string
  sha256: string | null
  sizeBytes: number
  kind: string
  state: FileState
  fault: Fault | null
}

/** Notes an arrived file; the same path again replaces it. */
export async function saveFile(db: Queryable, file: ArrivedFile): Promise<DeliveryFileRow> {
  if (file.sha256 !== null)
    await db
      .insert(blobs)
      .values({ sha256: file.sha256, sizeBytes: file.sizeBytes, kind: file.kind })
      .onConflictDoNothing()
  const [row] = await db
    .insert(deliveryFiles)
    .values(file)
    .onConflictDoUpdate({ target: [deliveryFiles.deliveryId, deliveryFiles.path], set: file })
    .returning()
  return row!
}

/**
 * Puts the files of an asset's newest version into a delivery, so that what is sent to it completes them.
 * They wait as if they had come anew: what a mesh says may hang on what comes.
 */
export async function copyVersionFiles(
  db: Queryable,
  deliveryId: string,
  files: readonly VersionFileRecord[],
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
        state: 'waiting',
      })),
    )
    .onConflictDoNothing()
}

export const removeFile = (db: Queryable, id: string): Promise<unknown> =>
  db.delete(deliveryFiles).where(eq(deliveryFiles.id, id))

export const listFiles = (db: Queryable, deliveryId: string): Promise<DeliveryFileRow[]> =>
  db.select().from(deliveryFiles).where(eq(deliveryFiles.deliveryId, deliveryId)).orderBy(deliveryFiles.path)

/** What a measurement asks of the files around it: a delivery of thousands is read for every mesh of it. */
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
  const done = sql`${deliveryFiles.state} in ('measured', 'refused', 'set-aside')`
  const [sum] = await db
    .select({
      files: sql<number>`count(*)::int`,
      bytes: sql<number>`coalesce(sum(${deliveryFiles.sizeBytes}), 0)::float8`,
      done: sql<number>`count(*) filter (where ${done})::int`,
      bytesDone: sql<number>`coalesce(sum(${deliveryFiles.sizeBytes}) filter (where ${done}), 0)::float8`,
    })
    .from(deliveryFiles)
    .where(eq(deliveryFiles.deliveryId, row.id))
  const refused = await db
    .select()
    .from(deliveryFiles)
    .where(and(eq(deliveryFiles.deliveryId, row.id), eq(deliveryFiles.state, 'refused')))
    .orderBy(deliveryFiles.path)
    .limit(200)
  const [suggested] =
    row.suggested === null
      ? []
      : await db
          .select({ id: intakePresets.id, name: intakePresets.name })
          .from(intakePresets)
          .where(eq(intakePresets.id, row.suggested))
  return deliverySchema.parse({
    id: row.id,
    number: row.number,
    note: row.note,
    by: row.by,
    state: row.state,
    created: new Date(row.created).toISOString(),
    ...(sum ?? { files: 0, bytes: 0, done: 0, bytesDone: 0 }),
    refused: refused.map(fileReply),
    intake: row.intake,
    suggested: suggested ?? null,
  })
}

/** A row as the API shows it. */
export const fileReply = (row: DeliveryFileRow): DeliveryFile => ({
  id: row.id,
  path: row.path,
  sizeBytes: row.sizeBytes,
  state: row.state as FileState,
  fault: row.fault === null ? null : faultSchema.parse(row.fault),
})
