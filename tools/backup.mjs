// npm run backup -- FILE [--of demo|start]    writes database and stored files of an installation into one file,
//                                              while it runs or while it does not
// npm run restore -- FILE [--of demo|start] [--replace]    puts them back, while it does not run
// With STERN_DATABASE_URL and STERN_DATA set, it is that installation.
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { ensureDebian } from './debian.mjs'
import { ArchiveFailed, backup, restore } from './archive.mjs'
import { startPostgres } from './postgres.mjs'
import { root } from './root.mjs'
import { runningInstallation } from './claim.mjs'

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    of: { type: 'string', default: 'start' },
    replace: { type: 'boolean', default: false },
  },
})
const [act, file] = positionals
if (!['backup', 'restore'].includes(act) || !file || !['start', 'demo'].includes(values.of)) {
  console.error(
    `Usage: npm run ${act ?? 'backup'} -- FILE [--of start|demo]${act === 'restore' ? ' [--replace]' : ''}`,
  )
  process.exit(2)
}
ensureDebian('postgresql')
const running = process.env.STERN_DATABASE_URL ? null : runningInstallation(values.of)
if (act === 'restore' && running) {
  console.error(`It runs (${running.url ?? 'just starting'}): end it first.`)
  process.exit(1)
}
const own = process.env.STERN_DATABASE_URL || running?.database ? null : await startPostgres(values.of)
const place = {
  url: process.env.STERN_DATABASE_URL || running?.database || own.url,
  data: process.env.STERN_DATA ?? running?.data ?? join(root, '.stern', values.of),
  file,
}
try {
  if (act === 'backup') backup(place)
  else restore({ ...place, replace: values.replace })
  console.log(act === 'backup' ? `Backed up to ${file}.` : `Restored from ${file}.`)
} catch (error) {
  if (!(error instanceof ArchiveFailed)) throw error
  console.error(error.message)
  process.exitCode = 1
} finally {
  own?.stop()
}
