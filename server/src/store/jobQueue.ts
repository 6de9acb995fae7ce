import { sql } from 'drizzle-orm'
import type { Queryable } from './database'
import { storableJson } from './storableText'

/** One job to be put into the queue. */
export interface NewJob {
  payload: object
  /** A waiting job of the same key is replaced; one that runs already is followed by this one. */
  key: string
  /** Lower numbers are taken first. */
  priority?: number
  /** Jobs of one named queue run one after the other. */
  queue?: string
}

/** A job that fails so often is given up. */
const MOST_ATTEMPTS = 3
/** Jobs that go into the queue by one statement. */
const AT_ONCE = 1000

/**
 * Puts jobs of one kind into the queue, to be taken in this order. Within a transaction they come with its
 * commit, so that a change and the work that follows from it are one act.
 */
export async function addJobs(db: Queryable, name: string, jobs: readonly NewJob[]): Promise<void> {
  for (let from = 0; from < jobs.length; from += AT_ONCE) {
    const some = jobs.slice(from, from + AT_ONCE)
    // Jobs of equal priority are taken by their times: a millisecond apart, the last one now
    await db.execute(sql`
      select count(*) from graphile_worker.add_jobs(array(
        select row(
          ${name}::text, job->'payload', job->>'queue',
          now() - make_interval(secs => (${jobs.length - from} - place) * 0.001),
          ${MOST_ATTEMPTS}::int, job->>'key', coalesce((job->>'priority')::int, 0), null
        )::graphile_worker.job_spec
        from json_array_elements(${storableJson(some)}::json) with ordinality as j(job, place) order by place))`)
  }
}

/** Has a delivery put together; once at a time, however many of its files were the last one. */
export const addAssembly = (db: Queryable, delivery: string): Promise<void> =>
  addJobs(db, 'assemble_delivery', [
    { payload: { delivery }, key: `assemble:${delivery}`, queue: `assemble:${delivery}` },
  ])

/** Has done what the preset of a delivery says of parts that its versions lack. */
export const addSettling = (db: Queryable, delivery: string): Promise<void> =>
  addJobs(db, 'settle_absent', [{ payload: { delivery }, key: `settle:${delivery}` }])

/** Has a bulk change gone on with. */
export const addBulkWork = (db: Queryable, change: string): Promise<void> =>
  addJobs(db, 'bulk_change', [{ payload: { change }, key: `bulk:${change}`, priority: -5 }])

/** Has a dispatch packed. */
export const addPacking = (db: Queryable, dispatch: string): Promise<void> =>
  addJobs(db, 'pack_dispatch', [{ payload: { dispatch }, key: `pack:${dispatch}` }])

/** Has assets judged by their newest recipes. `soon`: before what waits already. */
export const addJudging = (
  db: Queryable,
  assets: readonly string[],
  options: { soon?: boolean } = {},
): Promise<void> =>
  addJobs(
    db,
    'judge_asset',
    [...assets]
      .sort()
      .map((asset) => ({ payload: { asset }, key: `judge:${asset}`, priority: options.soon ? -10 : 0 })),
  )

/** So many assets are judged by one job: what they have in common is read once for them. */
const JUDGED_AT_ONCE = 400

/** Has many assets of a project judged anew, before what waits already. */
export const addJudgingOfMany = (
  db: Queryable,
  project: string,
  assets: readonly string[],
): Promise<void> => {
  const sorted = [...assets].sort(),
    jobs: NewJob[] = []
  for (let k = 0; k < sorted.length; k += JUDGED_AT_ONCE) {
    const some = sorted.slice(k, k + JUDGED_AT_ONCE)
    jobs.push({
      payload: { project, assets: some },
      key: `judge-many:${some[0]!}:${some.length}`,
      priority: -10,
    })
  }
  return addJobs(db, 'judge_many', jobs)
}

/** A job that waits, runs, or is tried again; one that was given up is none of these. */
export const isLive = sql.raw('(jobs.locked_by is not null or jobs.attempts < jobs.max_attempts)')

/** How many jobs of these keys wait or run. */
export async function countOpenJobs(db: Queryable, keys: readonly string[]): Promise<number> {
  const { rows } = await db.execute<{ n: number }>(
    sql`select count(*)::int as n from graphile_worker._private_jobs as jobs
        where key = any(${sql.param([...keys])}::text[]) and ${isLive}`,
  )
  return rows[0]?.n ?? 0
}

/**
 * Gives back all jobs that gone workers held, and some by their ids. A job is not to blame for the end of its
 * worker, so the attempt is given back too; not for ever, since a job may be what ended it.
 */
export async function freeJobsOf(
  db: Queryable,
  { workers, jobs = [] }: { workers: readonly string[]; jobs?: readonly string[] },
): Promise<void> {
  const theirs = sql`(locked_by = any(${sql.param([...workers])}::text[]) or id = any(${sql.param([...jobs])}::bigint[]))`
  await db.execute(sql`
    with freed as (
      update graphile_worker._private_jobs set locked_by = null, locked_at = null,
        max_attempts = case when attempts >= max_attempts then least(max_attempts + 1, ${MOST_ATTEMPTS + 7}) else max_attempts end
      where locked_by is not null and ${theirs} returning job_queue_id)
    update graphile_worker._private_job_queues set locked_by = null, locked_at = null
    where id in (select job_queue_id from freed) or locked_by = any(${sql.param([...workers])}::text[])`)
}

/** Lets a running job be tried once more than it would. */
export async function grantAttempt(db: Queryable, jobId: string): Promise<void> {
  await db.execute(
    sql`update graphile_worker._private_jobs set max_attempts = max_attempts + 1 where id = ${jobId}::bigint`,
  )
}
