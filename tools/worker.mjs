// npm run worker: a second process that takes jobs from the queue of a running installation. Without
// STERN_DATABASE_URL it joins the one that runs in this checkout (npm run demo or npm start).
import { fork } from 'node:child_process'
import { join } from 'node:path'
import { runningInstallation } from './claim.mjs'
import { ensurePackages } from './packages.mjs'
import { root } from './root.mjs'

ensurePackages()
const { buildNode } = await import('./build.mjs')
await buildNode()
const env = { ...process.env }
if (!env.STERN_DATABASE_URL) {
  const known = runningInstallation('demo') ?? runningInstallation('start')
  if (!known?.database) {
    console.error(
      'Nothing runs in this checkout. Start npm run demo or npm start first, or name the database ' +
        '(STERN_DATABASE_URL) and the folder of the stored files (STERN_DATA).',
    )
    process.exit(2)
  }
  env.STERN_DATABASE_URL = known.database
  env.STERN_DATA ??= known.data
}
// With a channel, so that it ends when this process is killed
const worker = fork(join(root, 'dist', 'worker.js'), { env, stdio: ['ignore', 'inherit', 'inherit', 'ipc'] })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => worker.kill(signal))
worker.on('exit', (code) => process.exit(code ?? 0))
