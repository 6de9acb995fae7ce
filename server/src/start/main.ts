import { fileURLToPath } from 'node:url'
import { readSettings } from './settings'
import { startServer } from './startServer'
import { outliveDatabase } from './outliveDatabase'
import { keepHeapSteady } from './steadyHeap'
import { stopOnSignals } from './stopOnSignals'

keepHeapSteady()
outliveDatabase()

const beside = (path: string) => fileURLToPath(new URL(path, import.meta.url))

const settings = readSettings(process.env)
if (!settings.ok) {
  process.stderr.write(`${settings.fault.code}: ${settings.fault.why}\n  ${settings.fault.hint}\n`)
  process.exit(2)
}
const running = await startServer(settings.value, {
  migrations: beside('../server/migrations'),
  workerFile: beside('./measure-worker.js'),
  webFolder: beside('./web'),
  rulePages: beside('../docs/rules'),
})
process.stdout.write(`Stern Gate is ready: ${running.url}\n`)
// The starter waits for this line
process.send?.({ ready: running.url })

stopOnSignals(running.stop)
