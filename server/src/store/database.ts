import pg from 'pg'
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import * as schema from './schema'

export type Database = NodePgDatabase<typeof schema>
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]
/** Queries run on either. */
export type Queryable = Database | Transaction

export interface Connection {
  pool: pg.Pool
  db: Database
  url: string
}

/** A database that does not answer within this is away. */
const CONNECT_WITHIN_MS = 5000

/** Opens a pool. Idle clients that break are dropped by the pool; that is no reason to end the process. */
export function connect(url: string): Connection {
  const pool = new pg.Pool({
    connectionString: url,
    max: 16,
    connectionTimeoutMillis: CONNECT_WITHIN_MS,
    // Compiling a plan takes longer than any of our queries: 1.3 s for a plan of 120 ms
    options: '-c jit=off',
  })
  pool.on('error', () => undefined)
  pool.on('connect', (client) => client.on('error', () => undefined))
  return { pool, db: drizzle(pool, { schema }), url }
}

/** Number of the advisory lock that migrations hold: several servers may start at once. */
const MIGRATION_LOCK = 5_417_001

/** Brings the database to the newest form; safe to call from several processes. */
export async function migrateDatabase({ pool }: Connection, folder: string): Promise<void> {
  const client = await pool.connect()
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK])
    await migrate(drizzle(client), { migrationsFolder: folder })
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]).catch(() => undefined)
    client.release()
  }
}
