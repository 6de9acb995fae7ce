/** Mixes a seed (section 23.21); 32 bits, unsigned. */
function mixed(seed: number): number {
  let p = seed
  p ^= p >>> 15
  p = (p - (p << 17)) >>> 0
  p = (p + (p << 7)) >>> 0
  p = (p + (p << 4)) >>> 0
  p = (p ^ (p >>> 5)) >>> 0
  p = (p + (p << 16)) >>> 0
  p = (p ^ (p >>> 7)) >>> 0
  p = (p ^ (p >>> 3)) >>> 0
  p = (p ^ (p << 6)) >>> 0
  return (p ^ (p >>> 17)) >>> 0
}

/**
 * Which of the partitions a texel belongs to: the highest of four planes whose slopes come from the seed
 * (section 23.21).
 */
export function partitionChooser(
  index: number,
  partitions: number,
  small: boolean,
): (x: number, y: number) => number {
  if (partitions === 1) return () => 0
  const seed = index + (partitions - 1) * 1024,
    random = mixed(seed)
  const slope = (from: number): number => ((random >>> from) & 15) ** 2
  const even = seed & 2 ? 4 : 5,
    odd = partitions === 3 ? 6 : 5
  const [first, second] = seed & 1 ? [even, odd] : [odd, even]
  // Slopes along x and y; a flat picture has no third
  const planes = [
    [0, 4, 14],
    [8, 12, 10],
    [16, 20, 6],
    [24, 28, 2],
  ].map(([x, y, start]) => [slope(x!) >> first!, slope(y!) >> second!, random >>> start!] as const)
  return (x, y) => {
    const px = small ? x << 1 : x,
      py = small ? y << 1 : y
    let best = 0,
      most = -1
    for (let p = 0; p < partitions; p++) {
      const [sx, sy, start] = planes[p]!
      const height = (sx * px + sy * py + start) & 63
      if (height > most) {
        most = height
        best = p
      }
    }
    return best
  }
}
