import { inKernels, type KernelRoom } from '../kernels/inKernels'

/**
 * The kernel counts groups of twelve bytes, a multiple of 1, 2, 3 and 4 channels, each byte in the table of
 * its place.
 */
const GROUP = 12
const TABLE = 256
const BLOCK = GROUP * 1024

/** Tables of how often byte values occur; bytes are counted in whole groups. */
export interface ByteTables {
  count: (at: number, length: number) => void
  byChannel: (channels: number) => Uint32Array[]
}

export function tablesOf({ run, filled, words }: KernelRoom): ByteTables {
  const tables = filled(GROUP * TABLE * 4)
  return {
    count: (at, length) => void run.countBytes(at, length / GROUP, tables),
    byChannel(channels) {
      const counts = Array.from({ length: channels }, () => new Uint32Array(TABLE)),
        all = words(tables, GROUP * TABLE)
      for (let k = 0; k < all.length; k++) counts[(k >> 8) % channels]![k & 255]! += all[k]!
      return counts
    },
  }
}

/** How often each value of interleaved bytes occurs, by channel: 1 to 4 channels. */
export function countBytes(data: Uint8Array, channels: number): Uint32Array[] {
  const whole = data.length - (data.length % GROUP)
  const counts = inKernels((room) => {
    const tables = tablesOf(room),
      at = room.space(BLOCK),
      held = room.bytes(at, BLOCK)
    for (let from = 0; from < whole; from += BLOCK) {
      const to = Math.min(whole, from + BLOCK)
      held.set(data.subarray(from, to))
      tables.count(at, to - from)
    }
    return tables.byChannel(channels)
  })
  for (let k = whole; k < data.length; k++) counts[k % channels]![data[k]!]!++
  return counts
}
