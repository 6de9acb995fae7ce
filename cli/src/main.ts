import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { openPool, threadsFor } from '@stern-gate/engine/pool'
import { measuresForSure } from './measuresForSure'

const options = {
  workerFile: fileURLToPath(new URL('./measure-worker.js', import.meta.url)),
  threads: threadsFor(availableParallelism()),
  secondsPerFile: 300,
  memoryMbPerThread: 4096,
}
const args = process.argv.slice(2)

// The thread loads while the command line does
const pool = measuresForSure(args) ? openPool(options) : null
const { run } = await import('./run')
process.exitCode = await run(args, options, pool)
