import earcut from 'earcut'

/**
 * Cuts a polygon into triangles by one fixed rule, so that a level, a hull or another export of the same polygon is
 * cut the same, at whichever corner it begins and in whichever format it comes. A quad is cut along its shorter diagonal;
 * of two as long along the one with the corner that comes first by x, then y, then z; a quad with a dent along the one
 * that lies inside it. What has more corners is a fan from its first corner in that order, or, with a dent, cut by its
 * ears (earcut). `points` has x, y, z of each corner; gives corner numbers, three a triangle.
 */
export function cutPolygon(points: readonly number[]): readonly number[] {
  const count = points.length / 3
  if (count < 3) return []
  if (count === 3) return TRIANGLE
  if (count === 4) return isCutAcross(points) ? ACROSS : ALONG
  const normal = newellNormal(points)
  if (isConvex(points, normal)) return fanFrom(firstCorner(points), count)
  const ears = earcut(flattened(points, normal))
  // Ears of what crosses itself or has no area leave some of it out
  return ears.length === (count - 2) * 3 ? ears : fanFrom(firstCorner(points), count)
}

const TRIANGLE = [0, 1, 2],
  ALONG = [0, 1, 2, 0, 2, 3],
  ACROSS = [0, 1, 3, 1, 2, 3]
/** Diagonals that differ by less than this, relatively, are as long as each other. */
const SAME = 1e-6

/** Whether a quad is cut from its second corner to its fourth. */
function isCutAcross(p: readonly number[]): boolean {
  const along = dotOf(areaVector(p, 0, 1, 2), areaVector(p, 0, 2, 3)) > 0,
    across = dotOf(areaVector(p, 0, 1, 3), areaVector(p, 1, 2, 3)) > 0
  if (along !== across) return across
  const first = lengthBetween(p, 0, 2),
    second = lengthBetween(p, 1, 3)
  if (Math.abs(first - second) > SAME * Math.max(first, second)) return second < first
  return firstCorner(p) % 2 === 1
}

const lengthBetween = (p: readonly number[], a: number, b: number): number =>
  Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!)

/** Twice the area of a triangle, as a vector along its normal. */
function areaVector(p: readonly number[], a: number, b: number, c: number): [number, number, number] {
  const [ux, uy, uz] = [0, 1, 2].map((i) => p[b * 3 + i]! - p[a * 3 + i]!) as [number, number, number],
    [vx, vy, vz] = [0, 1, 2].map((i) => p[c * 3 + i]! - p[a * 3 + i]!) as [number, number, number]
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
}

const dotOf = (a: readonly number[], b: readonly number[]): number =>
  a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!

/** The corner that comes first by x, then y, then z. */
function firstCorner(p: readonly number[]): number {
  let first = 0
  for (let c = 1; c * 3 < p.length; c++) {
    const by = [0, 1, 2].map((i) => p[c * 3 + i]! - p[first * 3 + i]!).find((d) => d !== 0) ?? 0
    if (by < 0) first = c
  }
  return first
}

/** The normal of a polygon that need not be flat (Newell’s method: Sutherland et al., 1974). */
function newellNormal(p: readonly number[]): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0]
  for (let c = 1; (c + 1) * 3 < p.length; c++) {
    const part = areaVector(p, 0, c, c + 1)
    for (let i = 0; i < 3; i++) sum[i]! += part[i]!
  }
  return sum
}

function isConvex(p: readonly number[], normal: readonly number[]): boolean {
  const count = p.length / 3
  for (let c = 0; c < count; c++)
    if (dotOf(areaVector(p, c, (c + 1) % count, (c + 2) % count), normal) < 0) return false
  return true
}

function fanFrom(first: number, count: number): number[] {
  const out: number[] = []
  for (let k = 1; k + 1 < count; k++) out.push(first, (first + k) % count, (first + k + 1) % count)
  return out
}

/** The polygon seen along the axis that its normal leans to most, turned so that it runs the same way round. */
function flattened(p: readonly number[], normal: readonly number[]): number[] {
  const lean = normal.map(Math.abs),
    axis = lean.indexOf(Math.max(...lean))
  const [u, v] = normal[axis]! >= 0 ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3]
  const flat: number[] = []
  for (let k = 0; k < p.length; k += 3) flat.push(p[k + u]!, p[k + v]!)
  return flat
}
