import type { Router } from 'express'
import type { Health } from '@stern-gate/contract'
import { routes } from '@stern-gate/contract'
import type { Services } from '../services/services'
import { waitable, type Waitable } from '../trouble/waitable'
import { answering } from './answer'

/** Asked for every few seconds by every page: an answer is given within this. */
const WITHIN_MS = 3000
/** However many pages ask, it is tried once in so long. */
const KEPT_MS = 1500

/** Whether the server can do its work: store, database and queue, each tried. */
export function healthRoutes(services: Services): Router {
  let kept: { at: number; health: Promise<Health> } | null = null
  const { router, on } = answering()
  on(routes.getHealth, async ({ response }) => {
    if (kept === null || Date.now() - kept.at > KEPT_MS) kept = { at: Date.now(), health: look(services) }
    const health = await kept.health
    response.status(health.ok ? 200 : 503)
    return health
  })
  return router
}

async function look(services: Services): Promise<Health> {
  const [store, database] = await Promise.all([
    tried(() => services.store.tryWriting()),
    tried(() => services.connection.pool.query('select 1')),
  ])
  const queue = database === 'ok' ? await queueState(services) : { waiting: 0, running: 0, givenUp: 0 }
  return {
    ok: store === 'ok' && database === 'ok',
    store,
    database,
    queue,
    waitsFor: services.waitsFor(),
  }
}

async function tried(look: () => Promise<unknown>): Promise<'ok' | Waitable | 'failed'> {
  let timer: ReturnType<typeof setTimeout> | null = null
  const late = new Promise<'database/away'>((resolve) => {
    timer = setTimeout(() => resolve('database/away'), WITHIN_MS)
  })
  const done = look().then(
    () => 'ok' as const,
    (error: unknown) => waitable(error) ?? ('failed' as const),
  )
  return Promise.race([done, late]).finally(() => timer && clearTimeout(timer))
}

async function queueState({ connection }: Services): Promise<Health['queue']> {
  const { rows } = await connection.pool.query<Health['queue']>(
    `select count(*) filter (where locked_by is null and attempts < max_attempts)::int as waiting,
            count(*) filter (where locked_by is not null)::int as running,
            count(*) filter (where locked_by is null and attempts >= max_attempts)::int as "givenUp"
     from graphile_worker._private_jobs`,
  )
  return rows[0] ?? { waiting: 0, running: 0, givenUp: 0 }
}
