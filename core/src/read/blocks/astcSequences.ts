/** A range of whole numbers from 0: so many bits, and beside them a trit or a quint. */
export interface Range {
  bits: number
  more: 'none' | 'trit' | 'quint'
}

/** Table 160 of the Khronos Data Format Specification 1.3, from 2 to 256 levels. */
export const ranges: readonly Range[] = [
  '1',
  '0t',
  '2',
  '0q',
  '1t',
  '3',
  '1q',
  '2t',
  '4',
  '2q',
  '3t',
  '5',
  '3q',
  '4t',
  '6',
  '4q',
  '5t',
  '7',
  '5q',
  '6t',
  '8',
].map((word) => ({
  bits: Number(word[0]),
  more: word[1] === 't' ? ('trit' as const) : word[1] === 'q' ? ('quint' as const) : ('none' as const),
}))

/** Bits that a sequence of so many numbers takes: five trits in eight bits, three quints in seven. */
export const sequenceBits = (count: number, { bits, more }: Range): number =>
  count * bits +
  (more === 'trit' ? Math.ceil((count * 8) / 5) : more === 'quint' ? Math.ceil((count * 7) / 3) : 0)

/** Reads one bit; what lies beyond the sequence is 0. */
export type ReadBit = (bit: number) => number

/** One number of a sequence: its bits, and its trit or quint. */
export interface SequenceValue {
  low: number
  high: number
}

const tritBits = [2, 2, 1, 2, 1],
  quintBits = [3, 2, 2]

/** Reads a sequence that begins at a bit (section 23.12, bounded integer sequence encoding). */
export function readSequence(bit: ReadBit, from: number, count: number, range: Range): SequenceValue[] {
  const end = from + sequenceBits(count, range),
    found: SequenceValue[] = []
  let at = from
  const take = (n: number): number => {
    let value = 0
    for (let i = 0; i < n; i++, at++) if (at < end) value |= bit(at) << i
    return value
  }
  const shares = range.more === 'trit' ? tritBits : range.more === 'quint' ? quintBits : [0]
  while (found.length < count) {
    const lows: number[] = []
    let packed = 0,
      place = 0
    for (const share of shares) {
      lows.push(take(range.bits))
      packed |= take(share) << place
      place += share
    }
    const highs = range.more === 'trit' ? trits(packed) : range.more === 'quint' ? quints(packed) : [0]
    for (let i = 0; i < lows.length && found.length < count; i++)
      found.push({ low: lows[i]!, high: highs[i]! })
  }
  return found
}

const part = (value: number, from: number, bits: number): number => (value >> from) & ((1 << bits) - 1)

/** Five trits of eight bits. */
function trits(t: number): number[] {
  let c: number, t3: number, t4: number
  if (part(t, 2, 3) === 7) {
    c = (part(t, 5, 3) << 2) | part(t, 0, 2)
    t3 = t4 = 2
  } else {
    c = part(t, 0, 5)
    if (part(t, 5, 2) === 3) {
      t4 = 2
      t3 = part(t, 7, 1)
    } else {
      t4 = part(t, 7, 1)
      t3 = part(t, 5, 2)
    }
  }
  if (part(c, 0, 2) === 3)
    return [(part(c, 3, 1) << 1) | (part(c, 2, 1) & ~part(c, 3, 1)), part(c, 4, 1), 2, t3, t4]
  if (part(c, 2, 2) === 3) return [part(c, 0, 2), 2, 2, t3, t4]
  return [(part(c, 1, 1) << 1) | (part(c, 0, 1) & ~part(c, 1, 1)), part(c, 2, 2), part(c, 4, 1), t3, t4]
}

/** Three quints of seven bits. */
function quints(q: number): number[] {
  if (part(q, 1, 2) === 3 && part(q, 5, 2) === 0) {
    const last = part(q, 0, 1)
    return [4, 4, (last << 2) | ((part(q, 4, 1) & ~last) << 1) | (part(q, 3, 1) & ~last)]
  }
  const long = part(q, 1, 2) === 3
  const c = long ? (part(q, 3, 2) << 3) | ((~part(q, 5, 2) & 3) << 1) | part(q, 0, 1) : part(q, 0, 5)
  const q2 = long ? 4 : part(q, 5, 2)
  return part(c, 0, 3) === 5 ? [part(c, 3, 2), 4, q2] : [part(c, 0, 3), part(c, 3, 2), q2]
}

/** Repeats a value's bits until they fill so many. */
export function repeatBits(value: number, bits: number, wanted: number): number {
  if (bits === 0) return 0
  let out = 0
  for (let left = wanted; left > 0; left -= bits)
    out |= left >= bits ? value << (left - bits) : value >> (bits - left)
  return out
}

/**
 * What a trit or quint is multiplied by, and where the bits above the lowest stand, by the number of bits:
 * for colours in nine bits, for weights in seven.
 */
interface Spread {
  times: number
  add: (upper: number) => number
}
const colourTrits: readonly Spread[] = [
  { times: 204, add: () => 0 },
  { times: 93, add: (b) => b * 0x116 },
  { times: 44, add: (v) => (v << 7) | (v << 2) | v },
  { times: 22, add: (v) => (v << 6) | v },
  { times: 11, add: (v) => (v << 5) | (v >> 2) },
  { times: 5, add: (v) => (v << 4) | (v >> 4) },
]
const colourQuints: readonly Spread[] = [
  { times: 113, add: () => 0 },
  { times: 54, add: (b) => b * 0x10c },
  { times: 26, add: (v) => (v << 7) | (v << 1) | (v >> 1) },
  { times: 13, add: (v) => (v << 6) | (v >> 1) },
  { times: 6, add: (v) => (v << 5) | (v >> 3) },
]
const weightTrits: readonly Spread[] = [
  { times: 50, add: () => 0 },
  { times: 23, add: (b) => b * 0x45 },
  { times: 11, add: (v) => (v << 5) | v },
]
const weightQuints: readonly Spread[] = [
  { times: 28, add: () => 0 },
  { times: 13, add: (b) => b * 0x42 },
]

function spread({ low, high }: SequenceValue, { times, add }: Spread, all: number, top: number): number {
  const t = (high * times + add(low >> 1)) ^ (low & 1 ? all : 0)
  return ((low & 1 ? all : 0) & top) | (t >> 2)
}

/** A colour's number as 0 … 255 (section 23.13). */
export function colourValue(value: SequenceValue, { bits, more }: Range): number {
  if (more === 'none') return repeatBits(value.low, bits, 8)
  return spread(value, (more === 'trit' ? colourTrits : colourQuints)[bits - 1]!, 0x1ff, 0x80)
}

/** A weight's number as 0 … 64 (section 23.17). */
export function weightValue(value: SequenceValue, { bits, more }: Range): number {
  let w: number
  if (more === 'none') w = repeatBits(value.low, bits, 6)
  else if (bits === 0) w = (more === 'trit' ? [0, 32, 63] : [0, 16, 32, 47, 63])[value.high]!
  else w = spread(value, (more === 'trit' ? weightTrits : weightQuints)[bits - 1]!, 0x7f, 0x20)
  return w > 32 ? w + 1 : w
}
