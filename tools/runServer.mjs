import { fork } from 'node:child_process'
import { join } from 'node:path'
import { buildNode, buildWeb } from './build.mjs'
import { claim, runningInstallation } from './claim.mjs'
import { ensureDebian } from './debian.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './root.mjs'

/**
 * Brings up an installation: PostgreSQL unless STERN_DATABASE_URL names one, the built page and server. Calls
 * `ready(url)` once it serves, and stays until a signal or the server's end; then everything that was started
 * is stopped.
 */
export async function runServer(name, { ready = async () => undefined } = {}) {
  const held = claim(name)
  if (!held) {
    const first = runningInstallation(name)
    console.log(`It runs already: ${first?.url ?? `process ${first?.pid}`}`)
    process.exit(0)
  }
  const own = !process.env.STERN_DATABASE_URL
  if (own) {
    ensureDebian('postgresql')
    console.log('Starting PostgreSQL …')
  }
  const postgres = own ? await startPostgres(name) : null
  let server = null,
    ending = false
  const end = async (code) => {
    if (ending) return
    ending = true
    if (server && server.exitCode === null && server.signalCode === null) {
      const gone = new Promise((resolve) => server.once('exit', resolve))
      server.kill('SIGTERM')
      const hard = setTimeout(() => server.kill('SIGKILL'), 8000)
      await gone
      clearTimeout(hard)
    }
    postgres?.stop()
    held.free()
    process.exit(code)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0))
  try {
    const say = () => console.log('Building …')
    await buildNode({ say })
    await buildWeb({ say })
    const env = {
      ...process.env,
      STERN_DATA: process.env.STERN_DATA ?? join(root, '.stern', name),
      ...(postgres ? { STERN_DATABASE_URL: postgres.url } : {}),
      STERN_LOG: process.env.STERN_LOG ?? 'warn',
    }
    server = fork(join(root, 'dist', 'server.js'), {
      env,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      detached: true,
    })
    const url = await new Promise((resolve, reject) => {
      server.on('message', (message) => message?.ready && resolve(message.ready))
      server.once('exit', (code) => reject(new Error(`The server ended before it was ready (code ${code}).`)))
    })
    server.once('exit', () => void end(1))
    // What a worker needs to join
    held.write(url, { database: env.STERN_DATABASE_URL, data: env.STERN_DATA })
    await ready(url)
  } catch (error) {
    console.error(error.message)
    await end(1)
  }
}
