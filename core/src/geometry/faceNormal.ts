/** Cross product of two sides of a triangle: its normal, as long as twice its surface. Corners are vertices of x y z. */
export function faceCross(p: Float32Array, a: number, b: number, c: number): [number, number, number] {
  const [ux, uy, uz] = [p[b * 3]! - p[a * 3]!, p[b * 3 + 1]! - p[a * 3 + 1]!, p[b * 3 + 2]! - p[a * 3 + 2]!],
    [vx, vy, vz] = [p[c * 3]! - p[a * 3]!, p[c * 3 + 1]! - p[a * 3 + 1]!, p[c * 3 + 2]! - p[a * 3 + 2]!]
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
}

/** The normal of a triangle, of length 1; all 0 for one without a surface. */
export function faceNormal(p: Float32Array, a: number, b: number, c: number): [number, number, number] {
  const [x, y, z] = faceCross(p, a, b, c)
  const length = Math.hypot(x, y, z)
  return length > 0 ? [x / length, y / length, z / length] : [0, 0, 0]
}
