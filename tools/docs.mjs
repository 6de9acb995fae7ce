// npm run docs: writes docs/rules from the rules themselves.
import { spawnSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { ensurePackages } from './packages.mjs'
import { root } from './root.mjs'

ensurePackages()
const { buildNode } = await import('./build.mjs')
await buildNode()
rmSync(join(root, 'docs/rules'), { recursive: true, force: true })
spawnSync(process.execPath, [join(root, 'dist/docs.js'), join(root, 'docs/rules')], { stdio: 'inherit' })
