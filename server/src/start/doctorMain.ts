import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { collect, examine } from '../care/doctor'
import { createFolderStore } from '../store/blobStore'
import { connect, migrateDatabase } from '../store/database'
import { readSettings } from './settings'

// node dist/doctor.js [--mend]: what is stored and nobody's, what is somebody's and not stored
const settings = readSettings(process.env)
if (!settings.ok) {
  process.stderr.write(`${settings.fault.code}: ${settings.fault.why}\n  ${settings.fault.hint}\n`)
  process.exit(2)
}
const connection = connect(settings.value.STERN_DATABASE_URL)
const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`
try {
  await migrateDatabase(connection, fileURLToPath(new URL('../server/migrations', import.meta.url)))
  const store = await createFolderStore(join(settings.value.STERN_DATA, 'store')),
    services = { db: connection.db, store }
  const { orphans, missing, stored } = await examine(services)
  const bytes = orphans.reduce((sum, o) => sum + o.sizeBytes, 0)
  process.stdout.write(`${stored} files are stored.\n`)
  process.stdout.write(`${orphans.length} of them are nobody's (${megabytes(bytes)}).\n`)
  process.stdout.write(`${missing.length} that somebody refers to are missing.\n`)
  for (const { sha256, owner } of missing.slice(0, 20))
    process.stdout.write(`  missing  ${sha256}, of a ${owner}\n`)
  if (process.argv.includes('--mend')) {
    const c = await collect(services)
    process.stdout.write(
      `Taken away: ${c.files} files (${megabytes(c.bytes)}), ${c.outputs} outputs, ${c.facts} old facts, ${c.events} old events.\n`,
    )
    if (missing.length > 0)
      process.stdout.write('What is missing cannot be made here: restore a backup, or deliver it again.\n')
  } else if (orphans.length > 0)
    process.stdout.write('npm run doctor -- --mend takes away what is nobody’s.\n')
  process.exitCode = missing.length > 0 ? 1 : 0
} finally {
  await connection.pool.end()
}
