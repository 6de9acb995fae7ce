import { fileURLToPath } from 'node:url'
import { readSettings } from './settings'
import { startWorker } from './startWorker'
import { outliveDatabase } from './outliveDatabase'
import { keepHeapSteady } from './steadyHeap'
import { stopOnSignals } from './stopOnSignals'

keepHeapSteady()
outliveDatabase()

const beside = (path: string) => fileURLToPath(new URL(path, import.meta.url))

const settings = readSettings(process.env)
if (!settings.ok || settings.value.STERN_DATABASE_URL === '') {
  process.stderr.write(
    settings.ok
      ? 'settings/invalid: STERN_DATABASE_URL is empty.\n  A worker joins an installation: name its database.\n'
      : `${settings.fault.code}: ${settings.fault.why}\n  ${settings.fault.hint}\n`,
  )
  process.exit(2)
}
const worker = await startWorker(settings.value, {
  migrations: beside('../server/migrations'),
  workerFile: beside('./measure-worker.js'),
})
process.stdout.write('The worker takes jobs.\n')
process.send?.({ ready: true })
stopOnSignals(worker.stop)
