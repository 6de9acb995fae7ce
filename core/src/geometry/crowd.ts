import { tableSize } from './hashBits'
import type { KernelRoom } from '../kernels/inKernels'

/** Bits for each entry of a crowd. */
const BITS = 8

/**
 * Room for a first look at a crowd, see core/kernels/crowd.ts: bits for hashes that came at all and for those
 * that came more than once.
 */
export function crowdOf(room: KernelRoom, entries: number): { taken: number; crowded: number; mask: number } {
  const bits = tableSize((entries * BITS) / 2)
  return {
    taken: room.filled(Math.ceil(bits / 32) * 4),
    crowded: room.filled(Math.ceil(bits / 32) * 4),
    mask: bits - 1,
  }
}
