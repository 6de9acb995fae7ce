/** Red, green, blue and alpha, 0 … 255. */
export type Ends = readonly [number[], number[]]

const clamp = (v: number): number => (v < 0 ? 0 : v > 255 ? 255 : v)

/** Numbers that an end point mode takes. */
export const valuesOfMode = (mode: number): number => ((mode >> 2) + 1) * 2

/** Modes for values beyond 1 are not of the plain profile: texels of such a partition are an error. */
export const isPlainMode = (mode: number): boolean => ![2, 3, 7, 11, 14, 15].includes(mode)

/** Takes the top bit of the offset as the base's, and the rest as a number with a sign (section 23.14). */
function baseAndOffset(base: number, offset: number): [base: number, offset: number] {
  const o = (offset >> 1) & 0x3f
  return [(base >> 1) | (offset & 0x80), o & 0x20 ? o - 0x40 : o]
}

/** Red and green drawn towards blue. */
const contracted = ([r, g, b, a]: readonly number[]): number[] => [(r! + b!) >> 1, (g! + b!) >> 1, b!, a!]

/** Both ends of a colour line (section 23.14); the mode must be a plain one. */
export function endsOf(mode: number, v: readonly number[]): Ends {
  const grey = (l: number, a: number): number[] => [l, l, l, a]
  switch (mode) {
    case 0:
      return [grey(v[0]!, 255), grey(v[1]!, 255)]
    case 1: {
      const low = (v[0]! >> 2) | (v[1]! & 0xc0)
      return [grey(low, 255), grey(Math.min(255, low + (v[1]! & 0x3f)), 255)]
    }
    case 4:
      return [grey(v[0]!, v[2]!), grey(v[1]!, v[3]!)]
    case 5: {
      const [l, dl] = baseAndOffset(v[0]!, v[1]!),
        [a, da] = baseAndOffset(v[2]!, v[3]!)
      return [grey(l, a), grey(clamp(l + dl), clamp(a + da))]
    }
    case 6:
    case 10: {
      const scaled = [0, 1, 2].map((c) => (v[c]! * v[3]!) >> 8)
      return [
        [...scaled, mode === 10 ? v[4]! : 255],
        [v[0]!, v[1]!, v[2]!, mode === 10 ? v[5]! : 255],
      ]
    }
    case 8:
    case 12:
      return direct(v, mode === 12 ? [v[6]!, v[7]!] : [255, 255])
    default:
      return offsets(v, mode === 13)
  }
}

/** The brighter end is the second; where it is not, both are exchanged and contracted. */
function direct(v: readonly number[], [a0, a1]: readonly [number, number]): Ends {
  const first = [v[0]!, v[2]!, v[4]!, a0],
    second = [v[1]!, v[3]!, v[5]!, a1]
  return v[1]! + v[3]! + v[5]! >= v[0]! + v[2]! + v[4]!
    ? [first, second]
    : [contracted(second), contracted(first)]
}

function offsets(v: readonly number[], alpha: boolean): Ends {
  const pairs = [0, 2, 4].map((k) => baseAndOffset(v[k]!, v[k + 1]!)),
    [a, da] = alpha ? baseAndOffset(v[6]!, v[7]!) : [255, 0]
  const first = [...pairs.map(([base]) => base), a],
    second = [...pairs.map(([base, offset]) => base + offset), a + da]
  const rises = pairs.reduce((sum, [, offset]) => sum + offset, 0) >= 0
  return rises
    ? [first.map(clamp), second.map(clamp)]
    : [contracted(second).map(clamp), contracted(first).map(clamp)]
}
