import { fork, type ChildProcess } from 'node:child_process'
import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { pixelsOf, pngOf } from '@stern-gate/core/fixtures'
import { dropCluster, startPostgres } from '../../tools/postgres.mjs'
import { once } from './clock'
import type { Figure } from './figure'

const BATCH = 24

/** 2,000 files in one delivery through a server of its own: how much more memory it held than with 200. */
export async function takingInFigures(tell: (line: string) => void): Promise<Figure[]> {
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
    const project = (await call<{ id: string }>(url, 'POST', '/projects', { name: 'Bench' })).id
    tell('200 files through the server')
    await deliver(url, project, 'few', 200)
    const few = await peakBytes(server)
    tell('2,000 files through the server')
    const taken = await once(() => deliver(url, project, 'many', 2000))
    const many = await peakBytes(server)
    return [
      {
        what: '2,000 files of 64 × 64 texels taken in and judged: peak memory of the server against that with 200',
        measured: `${(many / 1e6).toFixed(0)} MB against ${(few / 1e6).toFixed(0)} MB, ${(taken / 1000).toFixed(0)} s`,
        ratio: many / few,
        wanted: { most: 1.25 },
      },
    ]
  } finally {
    const ended = new Promise((resolve) => server.once('exit', resolve))
    server.kill('SIGTERM')
    await ended
    dropCluster(cluster)
    await rm(folder, { recursive: true, force: true })
  }
}

async function call<T>(url: string, method: string, path: string, body?: unknown): Promise<T> {
  const response = await fetch(`${url}/api${path}`, {
    method,
    ...(body === undefined
      ? {}
      : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
  })
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

async function deliver(url: string, project: string, name: string, count: number): Promise<void> {
  const { id } = await call<{ id: string }>(url, 'POST', `/projects/${project}/deliveries`, {})
  for (let from = 0; from < count; from += BATCH) {
    const form = new FormData()
    for (let i = from; i < Math.min(count, from + BATCH); i++) {
      form.append('path', `${name}/harbour_${name}${i}_a_basecolor.png`)
      form.append(
        'file',
        new Blob([
          Uint8Array.from(
            pngOf(
              pixelsOf(64, 64, 3, (x, y) => [(x * 3 + i) % 256, (y * 5 + (i >> 8)) % 256, name.length * 20]),
            ),
          ),
        ]),
        'x.png',
      )
    }
    // Drawing them takes so long that the server may have let go of the connection: it is noticed now, not
    // while writing
    await new Promise((resolve) => setTimeout(resolve, 5))
    const response = await fetch(`${url}/api/deliveries/${id}/files`, { method: 'POST', body: form })
    if (!response.ok) throw new Error(`files: ${response.status}`)
    await response.arrayBuffer()
  }
  await call(url, 'POST', `/deliveries/${id}/close`)
  for (let state = ''; state !== 'done';) {
    await new Promise((resolve) => setTimeout(resolve, 200))
    state = (await call<{ state: string }>(url, 'GET', `/deliveries/${id}`)).state
  }
}

const peakBytes = async (process: ChildProcess): Promise<number> =>
  Number(/^VmHWM:\s*(\d+) kB/m.exec(await readFile(`/proc/${process.pid}/status`, 'utf8'))![1]) * 1024
