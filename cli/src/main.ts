import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { createEngine } from '@stern-gate/engine'
import { createProgram } from './program'

// Rules and schemas need no threads, so the pool is made when it is first asked for
const workerFile = fileURLToPath(new URL('./measure-worker.js', import.meta.url))
const openEngine = () => createEngine({ workerFile, threads: Math.min(4, availableParallelism()), secondsPerFile: 300, memoryMbPerThread: 4096 })

const exitCode = await createProgram({ openEngine, cwd: process.cwd(), out: (text) => process.stdout.write(text), err: (text) => process.stderr.write(text), terminal: process.stderr.isTTY === true }).run(process.argv.slice(2))
process.exitCode = exitCode
