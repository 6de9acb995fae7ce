import { join } from 'node:path'
import { createEngine } from '@stern-gate/engine'
import { createProgram } from './program'

const workerFile = join(import.meta.dirname, '../../dist/measure-worker.js')

/** Runs the command line in a folder, as from a pipe, with one thread. For tests. */
export async function runIn(
  folder: string,
  args: string[],
): Promise<{ exit: number; out: string; err: string }> {
  let out = '',
    err = ''
  const exit = await createProgram({
    openEngine: () => createEngine({ workerFile, threads: 1, secondsPerFile: 30, memoryMbPerThread: 512 }),
    cwd: folder,
    out: (t) => (out += t),
    err: (t) => (err += t),
    terminal: false,
  }).run(args)
  return { exit, out, err }
}
