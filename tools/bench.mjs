// npm run bench: ratios measured in one run.
import { join } from 'node:path'
import { ensurePackages } from './packages.mjs'
import { root } from './root.mjs'

ensurePackages()
const { buildNode } = await import('./build.mjs')
await buildNode()
await import(join(root, 'dist', 'bench.js'))
