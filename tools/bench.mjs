// npm run bench: ratios measured in one run, by a process that has done nothing else.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { ensurePackages } from './packages.mjs'
import { root } from './root.mjs'

ensurePackages()
const { buildNode } = await import('./build.mjs')
await buildNode()
process.exitCode =
  spawnSync(process.execPath, ['--expose-gc', join(root, 'dist', 'bench.js'), ...process.argv.slice(2)], {
    stdio: 'inherit',
  }).status ?? 1
