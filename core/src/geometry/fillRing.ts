/** A triangle without an area is worse than any other. */
const FLAT_SHARE = 1e-9
const WORST = 1e30
/** Of covers with one area, as over a flat hole, the one with short edges. */
const EDGE_WEIGHT = 0.05

/**
 * Triangles over a closed ring of points in space (x y z each, at least three), turning as the ring does:
 * three places in the ring each, always two fewer than points. The cover has the least area and short edges
 * (minimum-weight triangulation by dynamic programming, Klincsek 1980; for holes Barequet and Sharir 1995).
 * Time grows with the cube of the ring.
 */
export function fillRing(points: Float32Array): number[] {
  const n = points.length / 3
  const weights = new Float64Array(n * n),
    splits = new Uint16Array(n * n)
  const scale = ringSize(points)
  for (let length = 2; length < n; length++)
    for (let i = 0; i + length < n; i++) {
      const k = i + length
      let best = Infinity
      for (let m = i + 1; m < k; m++) {
        const weight = weights[i * n + m]! + weights[m * n + k]! + triangleWeight(points, scale, i, m, k)
        if (weight >= best) continue
        best = weight
        splits[i * n + k] = m
      }
      weights[i * n + k] = best
    }
  return trianglesOf(splits, n)
}

function trianglesOf(splits: Uint16Array, n: number): number[] {
  const triangles: number[] = [],
    open: [number, number][] = [[0, n - 1]]
  for (let span = open.pop(); span; span = open.pop()) {
    const [i, k] = span
    if (k - i < 2) continue
    const m = splits[i * n + k]!
    triangles.push(i, m, k)
    open.push([i, m], [m, k])
  }
  return triangles
}

function triangleWeight(p: Float32Array, scale: number, a: number, b: number, c: number): number {
  const ux = p[b * 3]! - p[a * 3]!,
    uy = p[b * 3 + 1]! - p[a * 3 + 1]!,
    uz = p[b * 3 + 2]! - p[a * 3 + 2]!
  const vx = p[c * 3]! - p[a * 3]!,
    vy = p[c * 3 + 1]! - p[a * 3 + 1]!,
    vz = p[c * 3 + 2]! - p[a * 3 + 2]!
  const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2
  const edges =
    ux * ux +
    uy * uy +
    uz * uz +
    vx * vx +
    vy * vy +
    vz * vz +
    (vx - ux) ** 2 +
    (vy - uy) ** 2 +
    (vz - uz) ** 2
  return area <= scale * FLAT_SHARE ? WORST : area + EDGE_WEIGHT * edges
}

/** Square of the ring's largest side. */
function ringSize(points: Float32Array): number {
  const lows = [Infinity, Infinity, Infinity],
    highs = [-Infinity, -Infinity, -Infinity]
  points.forEach((v, i) => {
    lows[i % 3] = Math.min(lows[i % 3]!, v)
    highs[i % 3] = Math.max(highs[i % 3]!, v)
  })
  return Math.max(...highs.map((h, i) => h - lows[i]!)) ** 2
}
