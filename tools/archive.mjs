// One installation as one file: the database as pg_dump writes it, and the stored files.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { postgresBin } from './debian.mjs'

const FORM = 'stern-gate-backup/1'

/** A step that failed, in words for who ran the command. */
export class ArchiveFailed extends Error {}

function run(what, command, args) {
  const done = spawnSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })
  if (done.status !== 0)
    throw new ArchiveFailed(`${what} failed: ${(done.stderr || done.error?.message || '').trim()}`)
  return done.stdout
}
const program = (name) => join(postgresBin(), name)

/**
 * Writes an installation into one file. The database comes first: what it refers to is in the store by then, and
 * a store only grows. Half a file is never left under the name.
 */
export function backup({ url, data, file }) {
  const target = resolve(file)
  mkdirSync(dirname(target), { recursive: true })
  const folder = mkdtempSync(join(dirname(target), '.backup-'))
  try {
    run('Dumping the database', program('pg_dump'), [
      '--format=custom',
      '--no-owner',
      `--file=${join(folder, 'database.dump')}`,
      url,
    ])
    writeFileSync(join(folder, 'backup.json'), JSON.stringify({ form: FORM, made: new Date().toISOString() }))
    const store = existsSync(join(data, 'store')) ? ['-C', data, 'store'] : []
    run('Packing', 'tar', [
      '--exclude=store/incoming',
      '-cf',
      join(folder, 'backup.tar'),
      '-C',
      folder,
      'backup.json',
      'database.dump',
      ...store,
    ])
    renameSync(join(folder, 'backup.tar'), target)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/**
 * Puts an installation back from such a file. Refuses where there is one already, unless `replace` says that it
 * may be thrown away; nothing is thrown away before the file was unpacked whole.
 */
export function restore({ url, data, file, replace = false }) {
  if (!existsSync(file)) throw new ArchiveFailed(`There is no file ${file}.`)
  mkdirSync(data, { recursive: true })
  const folder = mkdtempSync(join(data, '.restore-'))
  try {
    run('Unpacking', 'tar', ['-xf', resolve(file), '-C', folder])
    checkForm(folder)
    const there = ask(url, "select count(*) from pg_tables where schemaname = 'public'") !== '0'
    if (there && !replace)
      throw new ArchiveFailed(
        'The database holds an installation already. --replace throws it away and puts the backup in its place.',
      )
    ask(
      url,
      'drop schema if exists graphile_worker cascade; drop schema if exists drizzle cascade; drop ' +
        'schema public cascade; create schema public',
    )
    run('Restoring the database', program('pg_restore'), [
      '--no-owner',
      '--exit-on-error',
      '--single-transaction',
      '--dbname',
      url,
      join(folder, 'database.dump'),
    ])
    rmSync(join(data, 'store'), { recursive: true, force: true })
    if (existsSync(join(folder, 'store'))) renameSync(join(folder, 'store'), join(data, 'store'))
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

function checkForm(folder) {
  const file = join(folder, 'backup.json')
  const form = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')).form : null
  if (form !== FORM)
    throw new ArchiveFailed('The file is no backup of Stern Gate, or one of a newer application.')
}

const ask = (url, query) =>
  run('Asking the database', program('psql'), [
    '--no-psqlrc',
    '--quiet',
    '--tuples-only',
    '--no-align',
    '--set=ON_ERROR_STOP=1',
    '--command',
    query,
    '--dbname',
    url,
  ]).trim()
