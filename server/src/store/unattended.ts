import { sql } from 'drizzle-orm'
import type { Queryable } from './database'
import { isLive } from './jobQueue'

/** A file that is to be measured though no job of it waits or runs. */
export interface UnattendedFile {
  file: string
  delivery: string
  project: string
  path: string
  /** Its job failed as often as it may. */
  givenUp: boolean
}

const liveJob = (key: ReturnType<typeof sql>) =>
  sql`exists (select 1 from graphile_worker._private_jobs as jobs where jobs.key = ${key} and ${isLive})`

/** Files of deliveries under way that nobody measures. */
export async function listUnattendedFiles(db: Queryable, limit: number): Promise<UnattendedFile[]> {
  const { rows } = await db.execute<UnattendedFile & Record<string, unknown>>(sql`
    select f.id as file, d.id as delivery, d.project_id as project, f.path,
      exists (select 1 from graphile_worker._private_jobs as jobs where jobs.key = 'measure:' || f.id) as "givenUp"
    from deliveries d join delivery_files f on f.delivery_id = d.id
    where d.state = 'measuring' and f.state in ('waiting', 'measuring') and not ${liveJob(sql`'measure:' || f.id`)}
    order by f.size_bytes limit ${limit}`)
  return rows
}

/**
 * Deliveries whose files are all measured though nobody puts them together. One whose job was given up is left
 * alone for a while before it is tried again.
 */
export async function listUnattendedDeliveries(db: Queryable): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select d.id from deliveries d
    where d.state = 'measuring'
      and not exists (select 1 from delivery_files f where f.delivery_id = d.id and f.state in ('waiting', 'measuring'))
      and not ${liveJob(sql`'assemble:' || d.id`)}
      and not exists (select 1 from graphile_worker._private_jobs as jobs
        where jobs.key = 'assemble:' || d.id and jobs.updated_at > now() - interval '10 minutes')`)
  return rows.map((r) => r.id)
}

/** Assets whose newest version waits for its judgement though nobody judges it. */
export async function listUnattendedAssets(db: Queryable, limit: number): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select a.id from versions v
    join assets a on a.id = v.asset_id and a.current_version = v.number
    join deliveries d on d.id = v.delivery_id
    where v.state in ('waiting', 'judging') and d.state in ('done', 'cancelled')
      and not ${liveJob(sql`'judge:' || a.id`)} and not ${liveJob(sql`'refresh:' || a.id`)}
      and not exists (select 1 from graphile_worker._private_jobs as jobs
        where jobs.key like 'judge-many:%' and ${isLive} and (jobs.payload->'assets')::jsonb ? a.id::text)
      and not exists (select 1 from graphile_worker._private_jobs as jobs
        where jobs.key in ('judge:' || a.id, 'refresh:' || a.id) and jobs.updated_at > now() - interval '10 minutes')
    order by a.updated desc limit ${limit}`)
  return rows.map((r) => r.id)
}

/** Dispatches that are to be packed though nobody packs them. */
export async function listUnattendedDispatches(db: Queryable): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select d.id from dispatches d
    where d.state in ('waiting', 'packing') and not ${liveJob(sql`'pack:' || d.id`)}`)
  return rows.map((r) => r.id)
}

/** Bulk changes that are not done to their end though nobody goes on with them. */
export async function listUnattendedChanges(db: Queryable): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select c.id from bulk_changes c
    where c.state in ('working', 'undoing') and not ${liveJob(sql`'bulk:' || c.id`)}`)
  return rows.map((r) => r.id)
}
