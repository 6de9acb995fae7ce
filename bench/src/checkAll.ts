import { fileURLToPath } from 'node:url'
import { defaultRulebook } from '@stern-gate/core'
import { checkFiles, createEngine, createFactsCache, type Engine, type FoundFile } from '@stern-gate/engine'

export const openEngine = (threads: number): Engine =>
  createEngine({
    workerFile: fileURLToPath(new URL('./measure-worker.js', import.meta.url)),
    threads,
    secondsPerFile: 120,
    memoryMbPerThread: 1024,
  })

/** Checks files as the command does. `cache` is a folder for facts. */
export async function checkAll(engine: Engine, found: FoundFile[], cache: string | null): Promise<void> {
  const report = await checkFiles(engine, found, [], {
    rulebook: defaultRulebook,
    target: defaultRulebook.defaultTarget,
    classChoice: null,
    version: 'bench',
    ...(cache === null ? {} : { cache: createFactsCache(cache) }),
  })
  if (report.totals.refused > 0) throw new Error('files of the benchmark were refused')
}

/** The same with an engine that is opened for it and closed again: a command from its start to its end. */
export async function checkOnce(found: FoundFile[], threads: number, cache: string | null): Promise<void> {
  const engine = openEngine(threads)
  try {
    await checkAll(engine, found, cache)
  } finally {
    await engine.close()
  }
}
