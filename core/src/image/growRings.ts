/**
 * Goes outward from the texels that `seeds` has 1 for, ring by ring, over those that it has 0 for: `take` is given each
 * texel with its neighbours of earlier rings that are nothing but seeds or were taken. A seed of 2 is gone around and
 * never given. Gives 1 for each texel that is a seed or was reached.
 */
export function growRings(
  seeds: Uint8Array,
  [width, height]: readonly [number, number],
  rings: number,
  take: (texel: number, known: readonly number[]) => void,
): Uint8Array {
  // Number of the ring in which a texel was reached, so that those of one ring do not see each other
  const ring = new Uint16Array(seeds.length)
  let front: number[] = []
  for (let t = 0; t < seeds.length; t++)
    if (seeds[t] === 1) {
      ring[t] = 1
      front.push(t)
    }
  const known: number[] = []
  for (let n = 2; n < rings + 2 && front.length > 0; n++) {
    const next: number[] = []
    for (const from of front)
      eachNeighbour(from, width, height, (t) => {
        if (ring[t] || seeds[t]) return
        ring[t] = n
        next.push(t)
        known.length = 0
        eachNeighbour(t, width, height, (o) => {
          if (ring[o] && ring[o] !== n) known.push(o)
        })
        take(t, known)
      })
    front = next
  }
  return Uint8Array.from(ring, (n) => (n > 0 ? 1 : 0))
}

function eachNeighbour(texel: number, width: number, height: number, visit: (texel: number) => void): void {
  const x = texel % width,
    y = (texel - x) / width
  for (let dy = y > 0 ? -1 : 0; dy <= (y < height - 1 ? 1 : 0); dy++)
    for (let dx = x > 0 ? -1 : 0; dx <= (x < width - 1 ? 1 : 0); dx++)
      if (dx !== 0 || dy !== 0) visit(texel + dy * width + dx)
}
