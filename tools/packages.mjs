import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './root.mjs'

/** Installs the npm packages when they are missing or the lock file changed. */
export function ensurePackages() {
  const digest = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  const stamp = join(root, 'node_modules', '.stern-gate-lock')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return
  console.log('Installing packages …')
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  })
  if (done.status !== 0) {
    console.error('The packages could not be installed; npm said why above.')
    process.exit(1)
  }
  writeFileSync(stamp, digest)
}
