import { createEngine, type EngineOptions, type Pool } from '@stern-gate/engine'
import { createProgram } from './program'
import type { ExitCode } from './surroundings'

/** Runs one command in this process; a pool that is open already is used and closed. */
export async function run(args: string[], options: EngineOptions, pool: Pool | null): Promise<ExitCode> {
  let left = pool
  const openEngine = () => {
    const engine = createEngine(options, left)
    left = null
    return engine
  }
  try {
    return await createProgram({
      openEngine,
      cwd: process.cwd(),
      out: (text) => process.stdout.write(text),
      err: (text) => process.stderr.write(text),
      terminal: process.stderr.isTTY === true,
    }).run(args)
  } finally {
    await left?.destroy()
  }
}
