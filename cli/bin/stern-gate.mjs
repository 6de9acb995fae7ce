#!/usr/bin/env node
// Starts the built command line; builds it first where that was not done yet.
import { existsSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..')
const built = join(root, 'dist', 'stern-gate.js')
if (!existsSync(built)) {
  const done = spawnSync(process.execPath, [join(root, 'tools', 'build.mjs'), '--node'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (done.status !== 0) process.exit(2)
}
await import(built)
