import { randomUUID } from 'node:crypto'
import { mkdtemp } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import pg from 'pg'
import { inject } from 'vitest'
import {
  settingsSchema,
  wholeDetail,
  type AssetDetail,
  type AssetRow,
  type Delivery,
  type DeliveryFile,
  type Project,
} from '@stern-gate/contract'
import type { BlobStore } from '../src/store/blobStore'
import { startServer, type RunningServer } from '../src/start/startServer'
import '../../tools/testing/context'

const root = join(import.meta.dirname, '../..')
export const serverFiles = {
  migrations: join(root, 'server/migrations'),
  workerFile: join(root, 'dist/measure-worker.js'),
  webFolder: null,
  rulePages: join(root, 'docs/rules'),
}

/** A database of its own on the run's PostgreSQL. */
export async function createDatabase(): Promise<string> {
  const admin = new pg.Client({ connectionString: inject('databaseUrl') })
  await admin.connect()
  const name = `t_${randomUUID().replaceAll('-', '')}`
  await admin.query(`create database ${name}`)
  await admin.end()
  return inject('databaseUrl').replace(/\/[^/]*$/, `/${name}`)
}

export interface TestServer {
  running: RunningServer
  data: string
  databaseUrl: string
  settings: Record<string, string>
}

/** The real application on a free port, with its own database and folder. */
export async function startTestServer(
  settings: Record<string, string> = {},
  openStore?: (folder: string) => Promise<BlobStore>,
): Promise<TestServer> {
  const databaseUrl = await createDatabase()
  const data = await mkdtemp(join(tmpdir(), 'stern-server-'))
  const all = {
    STERN_DATABASE_URL: databaseUrl,
    STERN_DATA: data,
    STERN_PORT: '0',
    STERN_LOG: 'silent',
    ...settings,
  }
  return {
    running: await startServer(settingsSchema.parse(all), serverFiles, openStore),
    data,
    databaseUrl,
    settings: all,
  }
}

/** Speaks to the API as a page does. */
export function createClient(url: string) {
  const call = async <T>(
    method: string,
    path: string,
    body?: unknown,
  ): Promise<{ status: number; body: T }> => {
    const response = await fetch(`${url}/api${path}`, {
      method,
      ...(body === undefined
        ? {}
        : body instanceof FormData
          ? { body }
          : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    })
    return { status: response.status, body: (await response.json()) as T }
  }
  const send = (delivery: string, files: Record<string, Uint8Array>) => {
    const form = new FormData()
    for (const [path, bytes] of Object.entries(files)) {
      form.append('path', path)
      form.append('file', new Blob([bytes as Uint8Array<ArrayBuffer>]), path.split('/').at(-1))
    }
    return call<DeliveryFile[]>('POST', `/deliveries/${delivery}/files`, form)
  }
  const waitDone = async (delivery: string): Promise<Delivery> => {
    for (let i = 0; i < 600; i++) {
      const { body } = await call<Delivery>('GET', `/deliveries/${delivery}`)
      if (body.state === 'done' || body.state === 'cancelled') return body
      await sleep(50)
    }
    throw new Error('the delivery is not done after 30 s')
  }
  return {
    call,
    send,
    waitDone,
    project: async () => (await call<Project>('POST', '/projects', { name: 'Gullwick Harbour' })).body.id,
    assets: async (project: string) => (await call<AssetRow[]>('GET', `/projects/${project}/assets`)).body,
    asset: async (id: string) => wholeDetail((await call<AssetDetail>('GET', `/assets/${id}`)).body),
    async deliver(project: string, files: Record<string, Uint8Array>): Promise<Delivery> {
      const { body } = await call<Delivery>('POST', `/projects/${project}/deliveries`, { note: 'test' })
      await send(body.id, files)
      await call('POST', `/deliveries/${body.id}/close`)
      return waitDone(body.id)
    },
    async waitFor<T>(look: () => Promise<T>, good: (value: T) => boolean): Promise<T> {
      for (let i = 0; i < 400; i++) {
        const value = await look()
        if (good(value)) return value
        await sleep(50)
      }
      throw new Error('it did not come about within 20 s')
    },
  }
}
