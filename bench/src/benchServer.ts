import { fork, type ChildProcess } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { dropCluster, startPostgres } from '../../tools/postgres.mjs'

export interface BenchServer {
  url: string
  databaseUrl: string
  process: ChildProcess
}

/** Gives a server with a PostgreSQL of its own to the work, and takes both away afterwards. */
export async function withServer<T>(work: (server: BenchServer) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'stern-bench-')),
    cluster = `bench-${process.pid}`
  const postgres = await startPostgres(cluster, { flags: [] })
  const server = fork(fileURLToPath(new URL('./server.js', import.meta.url)), {
    env: {
      ...process.env,
      STERN_DATABASE_URL: postgres.url,
      STERN_DATA: join(folder, 'data'),
      STERN_PORT: '0',
      STERN_LOG: 'error',
    },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  })
  try {
    const url = await new Promise<string>((resolve, reject) =>
      server
        .once('message', (m) => resolve((m as { ready: string }).ready))
        .once('exit', (code) => reject(new Error(`the server ended with ${code}`))),
    )
    return await work({ url, databaseUrl: postgres.url, process: server })
  } finally {
    const ended = new Promise((resolve) => server.once('exit', resolve))
    server.kill('SIGTERM')
    await ended
    dropCluster(cluster)
    await rm(folder, { recursive: true, force: true })
  }
}

/** Calls the API as a page does. */
export async function call<T>(url: string, method: string, path: string, body?: unknown): Promise<T> {
  const response = await fetch(`${url}/api${path}`, {
    method,
    ...(body === undefined
      ? {}
      : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
  })
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}
