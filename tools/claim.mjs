import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './root.mjs'

const fileOf = (name) => join(root, '.stern', `${name}.running`)

function read(name) {
  try {
    return JSON.parse(readFileSync(fileOf(name), 'utf8') || '{}')
  } catch {
    return {}
  }
}

function isAlive(pid) {
  try {
    process.kill(pid, 0)
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('tools')
  } catch {
    return false
  }
}

/** The installation of a name that runs in this checkout: its address, database and folder; null when none does. */
export function runningInstallation(name) {
  const known = existsSync(fileOf(name)) ? read(name) : {}
  return known.pid && isAlive(known.pid) ? known : null
}

/**
 * One running installation a name. Gives null where another process has the name; of two that begin at the same
 * time one gets it.
 */
export function claim(name) {
  const file = fileOf(name)
  mkdirSync(join(root, '.stern'), { recursive: true })
  for (let attempt = 0; attempt < 3; attempt++) {
    try {
      closeSync(openSync(file, 'wx', 0o600))
      break
    } catch (error) {
      if (error.code !== 'EEXIST') throw error
      if (runningInstallation(name)) return null
      // Left behind by a process that was killed
      rmSync(file, { force: true })
    }
  }
  const write = (url, more = {}) =>
    writeFileSync(file, JSON.stringify({ pid: process.pid, url, ...more }), { mode: 0o600 })
  write()
  return { write, free: () => rmSync(file, { force: true }) }
}
