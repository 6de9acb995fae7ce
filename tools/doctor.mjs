// npm run doctor [-- --mend] [--of demo|start]    looks at the stored files of an installation: what is nobody's,
//                                                 what is missing; --mend takes away what is nobody's. It may run.
// With STERN_DATABASE_URL and STERN_DATA set, it is that installation.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { ensurePackages } from './packages.mjs'
import { ensureDebian } from './debian.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './root.mjs'
import { runningInstallation } from './claim.mjs'

const { values } = parseArgs({
  options: { of: { type: 'string', default: 'start' }, mend: { type: 'boolean', default: false } },
})
if (!['start', 'demo'].includes(values.of)) {
  console.error('Usage: npm run doctor -- [--mend] [--of start|demo]')
  process.exit(2)
}
ensurePackages()
ensureDebian('postgresql')
const { buildNode } = await import('./build.mjs')
await buildNode()
const running = process.env.STERN_DATABASE_URL ? null : runningInstallation(values.of)
const own = process.env.STERN_DATABASE_URL || running?.database ? null : await startPostgres(values.of)
const env = {
  ...process.env,
  STERN_DATABASE_URL: process.env.STERN_DATABASE_URL || running?.database || own.url,
  STERN_DATA: process.env.STERN_DATA ?? running?.data ?? join(root, '.stern', values.of),
}
process.exitCode =
  spawnSync(process.execPath, [join(root, 'dist/doctor.js'), ...(values.mend ? ['--mend'] : [])], {
    stdio: 'inherit',
    env,
  }).status ?? 1
own?.stop()
