import { and, asc, eq, gt, max, sql } from 'drizzle-orm'
import { eventSchema, type LiveEvent } from '@stern-gate/contract'
import type { Queryable } from './database'
import { events } from './schema'

export const EVENT_CHANNEL = 'stern_events'
export const PROGRESS_CHANNEL = 'stern_progress'

/** Writes an event and tells the pages; within a transaction they hear of it when it is committed. */
export async function addEvent(db: Queryable, projectId: string, event: LiveEvent, by = ''): Promise<void> {
  const [row] = await db.insert(events).values({ projectId, by, body: event }).returning({ id: events.id })
  await db.execute(sql`select pg_notify(${EVENT_CHANNEL}, ${JSON.stringify({ id: row!.id, projectId, event })})`)
}

/** Tells the pages what is being done just now; it is not kept. */
export async function tellProgress(db: Queryable, projectId: string, event: Extract<LiveEvent, { kind: 'progress' }>): Promise<void> {
  await db.execute(sql`select pg_notify(${PROGRESS_CHANNEL}, ${JSON.stringify({ projectId, event })})`)
}

/** Events after one that a page has seen. */
export async function listEventsAfter(db: Queryable, projectId: string, id: number, limit = 1000): Promise<{ id: number; event: LiveEvent }[]> {
  const rows = await db.select().from(events).where(and(eq(events.projectId, projectId), gt(events.id, id))).orderBy(asc(events.id)).limit(limit)
  return rows.map((r) => ({ id: r.id, event: eventSchema.parse(r.body) }))
}

/** Id of a project's newest event; 0 when there is none. */
export async function lastEventId(db: Queryable, projectId: string): Promise<number> {
  const [row] = await db.select({ id: max(events.id) }).from(events).where(eq(events.projectId, projectId))
  return row?.id ?? 0
}
