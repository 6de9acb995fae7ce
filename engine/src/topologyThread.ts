import { Worker } from 'node:worker_threads'
import { countTopology, type CountTopology, type TopologyCount, type TopologyInput } from '@stern-gate/core'

/** Fewer triangles are counted here: handing them over would take as long. */
const LEAST_TRIANGLES = 100_000

/**
 * A second thread that counts how triangles hang together while the first measures the rest of a large mesh.
 * It ends with the thread that it belongs to.
 */
export interface TopologyThread {
  /** Starts the thread, so that it is there when it is needed. */ warm: () => void
  count: CountTopology
}

/** `file` is the built entry: dist/topology-worker.js. */
export function topologyThread(file: URL): TopologyThread {
  let worker: Worker | null = null
  const waiting: { resolve: (count: TopologyCount) => void; reject: (error: Error) => void }[] = []
  const started = (): Worker => (worker ??= start())
  const start = (): Worker => {
    const thread = new Worker(file)
    // One that broke says so and then ends; by then another may be at work
    const fail = (error: Error): void => {
      if (worker !== thread) return
      worker = null
      for (const asked of waiting.splice(0)) asked.reject(error)
    }
    thread.on('message', (count: TopologyCount) => {
      waiting.shift()!.resolve(count)
      if (waiting.length === 0) thread.unref()
    })
    thread.on('error', fail)
    thread.on('exit', (code) => fail(new Error(`the thread for topology ended with ${code}`)))
    thread.unref()
    return thread
  }
  return {
    warm: () => void started(),
    count(input: TopologyInput) {
      if (input.corners.length / 3 < LEAST_TRIANGLES) return Promise.resolve(countTopology(input))
      return new Promise((resolve, reject) => {
        waiting.push({ resolve, reject })
        const thread = started()
        thread.ref()
        // The places may lie in the file's own bytes, which are still needed here
        thread.postMessage({ ...input, places: input.places.slice() }, [input.corners.buffer as ArrayBuffer])
      })
    },
  }
}
