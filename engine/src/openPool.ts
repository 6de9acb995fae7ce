import { Piscina } from 'piscina'

export type Pool = Piscina

export interface PoolOptions {
  /** Built worker entry: dist/measure-worker.js. */
  workerFile: string
  threads: number
  memoryMbPerThread: number
}

/** Opens the threads that measure; the first begins to load at once. */
export const openPool = ({ workerFile, threads, memoryMbPerThread }: PoolOptions): Pool => new Piscina({
  filename: workerFile, minThreads: 1, maxThreads: threads, idleTimeout: 30_000, resourceLimits: { maxOldGenerationSizeMb: memoryMbPerThread },
})
