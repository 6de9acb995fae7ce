// npm run faults [-- --only kill|database|disk]: the built server under faults on purpose. It is killed, its
// database is stopped and started, and the disk of its store is filled, each at aimed moments of each kind of
// work; after every fault everything that was delivered must be there once, measured and judged.
import { fork, spawnSync } from 'node:child_process'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { parseArgs } from 'node:util'
import { buildNode } from './build.mjs'
import { ensureDebian } from './debian.mjs'
import { actsOf, lookWhole } from './faults/acts.mjs'
import { ensurePackages } from './packages.mjs'
import { dropCluster, startPostgres, stopPostgresHard } from './postgres.mjs'
import { root } from './root.mjs'

const { values } = parseArgs({ options: { only: { type: 'string' } } })
const NAME = 'faults'
/** Milliseconds into each kind of work at which a fault strikes. */
const KILL_AFTER = [2, 15, 60, 160, 400]
const OTHER_AFTER = [20, 250]
const AWAY_MS = 2500

ensureDebian('postgresql')
ensurePackages()
await buildNode({ say: () => console.log('Building …') })
dropCluster(NAME)
let postgres = await startPostgres(NAME)
const data = join(tmpdir(), `stern-faults-${process.pid}`)
mkdirSync(data, { recursive: true })
const isSmallDisk =
  spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=96m', 'tmpfs', data], { stdio: 'ignore' }).status === 0

let server = null,
  url = ''
async function start() {
  server = fork(join(root, 'dist', 'server.js'), {
    env: {
      ...process.env,
      STERN_DATABASE_URL: postgres.url,
      STERN_DATA: data,
      STERN_PORT: '0',
      STERN_LOG: process.env.STERN_LOG ?? 'error',
    },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
  server.on('exit', (code, signal) => {
    if (signal !== 'SIGKILL' && code !== 0) console.error(`  the server ended by itself (${code ?? signal})`)
  })
  url = await new Promise((resolve, reject) => {
    server.on('message', (message) => message?.ready && resolve(message.ready))
    server.once('exit', () => reject(new Error('the server does not start')))
  })
}
const kill = async () => {
  const gone = new Promise((resolve) => server.once('exit', resolve))
  server.kill('SIGKILL')
  await gone
}

const faults = {
  kill: {
    after: KILL_AFTER,
    async strike() {
      await kill()
      await start()
    },
  },
  database: {
    after: OTHER_AFTER,
    async strike() {
      const { pid } = server
      stopPostgresHard(NAME)
      await sleep(AWAY_MS)
      postgres = await startPostgres(NAME, { port: new URL(postgres.url).port })
      if (server.exitCode !== null || server.pid !== pid)
        throw new Error('the server did not outlive its database')
    },
  },
  disk: {
    after: OTHER_AFTER,
    async strike() {
      const filler = join(data, 'filler')
      try {
        writeFileSync(filler, Buffer.alloc(200 * 1024 * 1024))
      } catch {
        // Full now, as wanted
      }
      await sleep(AWAY_MS)
      rmSync(filler, { force: true })
    },
  },
}

let failed = 0,
  struck = 0
const began = Date.now()
try {
  await start()
  const acts = await actsOf()
  for (const [name, fault] of Object.entries(faults)) {
    if (values.only && values.only !== name) continue
    if (name === 'disk' && !isSmallDisk) {
      console.log('disk: not tried, for only root can make a small disk to fill')
      continue
    }
    for (const act of acts)
      for (const after of fault.after) {
        const state = await act.prepare(() => url)
        const work = act.run(() => url, state).catch(() => undefined)
        await sleep(after)
        const at = Date.now()
        await fault.strike()
        await work
        const wrong = await lookWhole(() => url, state, act)
        struck++
        if (wrong.length > 0) failed++
        console.log(
          `${wrong.length > 0 ? 'FAILED' : 'whole '}  ${name.padEnd(8)} ${act.name.padEnd(10)} after ${String(after).padStart(3)} ms, whole again in ${((Date.now() - at) / 1000).toFixed(1)} s${wrong.map((w) => `\n          ${w}`).join('')}`,
        )
      }
  }
} finally {
  server?.kill('SIGKILL')
  postgres.stop()
  if (isSmallDisk) spawnSync('umount', [data])
  rmSync(data, { recursive: true, force: true })
  dropCluster(NAME)
}
console.log(
  `\n${struck} faults, ${failed} left something wrong; ${Math.round((Date.now() - began) / 1000)} s\n${struck - failed} passed, ${failed} failed`,
)
process.exit(failed > 0 ? 1 : 0)
