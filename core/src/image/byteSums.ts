import { inKernels, type KernelRoom } from '../kernels/inKernels'
import { tablesOf } from './countBytes'

/** Least, greatest, sum and sum of squares of a channel's values. */
export interface ByteSums {
  least: number
  greatest: number
  sum: number
  squares: number
}

/**
 * Bytes of a picture that are counted as well: of every stretch of `every` bytes so many from the place that
 * `next` gives. `every` is a multiple of 48, the others are multiples of twelve.
 */
export interface Runs {
  every: number
  length: number
  next: () => number
}

/** The kernel takes groups of 48 bytes, a multiple of 1, 2, 3 and 4 channels. */
const GROUP = 48
/** About so many bytes a processor has near. */
const NEAR = 3072 * GROUP

/**
 * Exact figures of every channel of interleaved bytes, 1 to 4 channels, sixteen bytes at a time; with `runs`
 * the values in these are counted by channel, while they are near.
 */
export function byteSums(
  data: Uint8Array,
  channels: number,
  runs?: Runs,
): { sums: ByteSums[]; counts: Uint32Array[] } {
  const sums = Array.from({ length: channels }, (): ByteSums => ({
    least: 255,
    greatest: 0,
    sum: 0,
    squares: 0,
  }))
  const whole = data.length - (data.length % GROUP)
  const counts = inKernels((room) => {
    const scan = scanner(room),
      tables = tablesOf(room),
      stretch = runs?.every ?? NEAR
    // Whole stretches at a time, which are whole groups
    const block = stretch * Math.max(1, Math.floor(NEAR / stretch)),
      at = room.space(block),
      held = room.bytes(at, block)
    for (let from = 0; from < whole; from += block) {
      const length = Math.min(block, whole - from)
      held.set(data.subarray(from, from + length))
      scan.take(at, length)
      for (let s = 0; runs && s + stretch <= length; s += stretch)
        tables.count(at + s + runs.next(), runs.length)
    }
    scan.addTo(sums)
    return tables.byChannel(channels)
  })
  for (let k = whole; k < data.length; k++) addValue(sums[k % channels]!, data[k]!)
  return { sums, counts }
}

function addValue(own: ByteSums, value: number): void {
  own.least = Math.min(own.least, value)
  own.greatest = Math.max(own.greatest, value)
  own.sum += value
  own.squares += value * value
}

/** Figures by place in a group of bytes, which end up with the channels. */
function scanner({ run, filled, bytes, words }: KernelRoom): {
  take: (at: number, length: number) => void
  addTo: (channels: readonly ByteSums[]) => void
} {
  const least = filled(GROUP, 255),
    greatest = filled(GROUP),
    sums = filled(GROUP * 16)
  return {
    take: (at, length) => void run.scanBytes(at, length / GROUP, least, sums),
    addTo(channels) {
      // 64 bits each, the lower half first
      const halves = words(sums, GROUP * 4),
        value = (k: number): number => halves[k * 2]! + halves[k * 2 + 1]! * 2 ** 32
      const low = bytes(least, GROUP),
        high = bytes(greatest, GROUP)
      for (let i = 0; i < GROUP; i++) {
        const own = channels[i % channels.length]!
        own.sum += value(i)
        own.squares += value(GROUP + i)
        own.least = Math.min(own.least, low[i]!)
        own.greatest = Math.max(own.greatest, high[i]!)
      }
    },
  }
}
