import { and, asc, eq, gt, max, sql, type SQLWrapper } from 'drizzle-orm'
import { eventSchema, type LiveEvent } from '@stern-gate/contract'
import type { Queryable } from './database'
import { events } from './schema'

export const EVENT_CHANNEL = 'stern_events'
export const PROGRESS_CHANNEL = 'stern_progress'

/**
 * Writes an event and tells the pages; within a transaction they hear of it when it is committed. It belongs
 * at the transaction's end: from here on other events of the project wait for the commit, so that ids follow
 * each other as the commits do and a page that saw one never misses an earlier one.
 */
export const addEvent = (db: Queryable, projectId: string, event: LiveEvent, by = ''): Promise<void> =>
  addEvents(db, projectId, [event], by)

/** Several at once, in their order; for the end of a transaction likewise. */
export const addEvents = (
  db: Queryable,
  projectId: string,
  all: readonly LiveEvent[],
  by = '',
): Promise<void> => changeAndTell(db, sql`(select 1)`, projectId, all, by)

/**
 * A change (a statement that returns rows) and its events as one statement: nothing else needs to be in the
 * transaction.
 */
export async function changeAndTell(
  db: Queryable,
  change: SQLWrapper,
  projectId: string,
  all: readonly LiveEvent[],
  by = '',
): Promise<void> {
  // What the change locks is locked first, as everywhere
  await db.execute(sql`
    with changed as ${change},
    turn as materialized (select pg_advisory_xact_lock(hashtextextended(${projectId}, 0)) from (select count(*) from changed) as after_it),
    written as (
      insert into ${events} (project_id, by, body)
      select ${projectId}::uuid, ${by}, e.body from turn, jsonb_array_elements(${JSON.stringify(all)}::jsonb) with ordinality as e(body, place) order by e.place
      returning id, project_id, body)
    select pg_notify(${EVENT_CHANNEL}, json_build_object('id', id, 'projectId', project_id, 'event', body)::text) from written`)
}

/** Tells the pages what is being done just now; it is not kept. */
export async function tellProgress(
  db: Queryable,
  projectId: string,
  event: Extract<LiveEvent, { kind: 'progress' }>,
): Promise<void> {
  await db.execute(sql`select pg_notify(${PROGRESS_CHANNEL}, ${JSON.stringify({ projectId, event })})`)
}

/** Events after one that a page has seen. */
export async function listEventsAfter(
  db: Queryable,
  projectId: string,
  id: number,
  limit = 1000,
): Promise<{ id: number; event: LiveEvent }[]> {
  const rows = await db
    .select()
    .from(events)
    .where(and(eq(events.projectId, projectId), gt(events.id, id)))
    .orderBy(asc(events.id))
    .limit(limit)
  return rows.map((r) => ({ id: r.id, event: eventSchema.parse(r.body) }))
}

/** Id of a project's newest event; 0 when there is none. */
export async function lastEventId(db: Queryable, projectId: string): Promise<number> {
  const [row] = await db
    .select({ id: max(events.id) })
    .from(events)
    .where(eq(events.projectId, projectId))
  return row?.id ?? 0
}
