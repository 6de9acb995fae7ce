import { parentPort } from 'node:worker_threads'
import { countTopology, type TopologyInput } from '@stern-gate/core/topology'

/**
 * Entry of the thread that counts topology: one request after the other, answers in the same order, arrays
 * moved and not copied.
 */
parentPort!.on('message', (input: TopologyInput) => {
  const count = countTopology(input)
  const { flags, shell } = count.topology
  parentPort!.postMessage(count, [flags.buffer as ArrayBuffer, shell.buffer as ArrayBuffer])
})
