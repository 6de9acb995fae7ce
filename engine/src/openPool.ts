import { Piscina } from 'piscina'

export type Pool = Piscina

export interface PoolOptions {
  /** Built worker entry: dist/measure-worker.js. */
  workerFile: string
  threads: number
  memoryMbPerThread: number
}

/**
 * Threads for a machine: one more than it has cores, since a thread waits while its picture is decoded beside
 * it; not too many, for each holds what it measures.
 */
export const threadsFor = (cores: number): number => Math.min(9, cores + 1)

/** Opens the threads that measure; the first begins to load at once. */
export const openPool = ({ workerFile, threads, memoryMbPerThread }: PoolOptions): Pool =>
  new Piscina({
    filename: workerFile,
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: memoryMbPerThread },
  })
