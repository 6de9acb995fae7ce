import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** Folder of PostgreSQL's programs, newest first; null when it is not installed. */
export function postgresBin() {
  const base = '/usr/lib/postgresql'
  if (!existsSync(base)) return null
  const versions = readdirSync(base).sort((a, b) => Number(b) - Number(a))
  const found = versions
    .map((v) => join(base, v, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'pg_ctl')))
  return found ?? null
}

/** Chromium as Debian installs it, or where STERN_CHROMIUM says; null when it is not there. */
export function chromiumPath() {
  return (
    [process.env.STERN_CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
      (p) => p && existsSync(p),
    ) ?? null
  )
}

const programs = { postgresql: () => postgresBin() !== null, chromium: () => chromiumPath() !== null }

/**
 * Makes sure that Debian packages are there: installs them as root, else prints the one command to run and
 * ends.
 */
export function ensureDebian(...names) {
  const missing = names.filter((name) => !programs[name]())
  if (missing.length === 0) return
  const install = `apt-get install -y --no-install-recommends ${missing.join(' ')}`
  if (process.getuid() !== 0) {
    console.error(
      `Debian packages are missing, and only root may install them. Run this once, then try again:\n\n  sudo ${install}\n`,
    )
    process.exit(1)
  }
  console.log(`Installing Debian packages: ${missing.join(', ')} …`)
  // Debian would make and start a cluster of its own; ours is private
  mkdirSync('/etc/postgresql-common', { recursive: true })
  if (!existsSync('/etc/postgresql-common/createcluster.conf'))
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n')
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  for (const command of [
    ['update', '-q'],
    ['install', '-y', '-q', '--no-install-recommends', ...missing],
  ]) {
    const done = spawnSync('apt-get', command, {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
      encoding: 'utf8',
    })
    if (done.status !== 0 && command[0] === 'install') {
      console.error(`apt-get could not install them. Run by hand:\n\n  ${install}\n`)
      process.exit(1)
    }
  }
}
