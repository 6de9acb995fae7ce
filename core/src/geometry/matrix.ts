/** A 4×4 matrix, column by column, as glTF stores it. */
export type Matrix4 = ArrayLike<number>

export const identityMatrix: readonly number[] = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** Returns a · b; `out` may not alias either. */
export function multiplyMatrices(a: Matrix4, b: Matrix4, out = new Float64Array(16)): Float64Array {
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++) {
      let sum = 0
      for (let k = 0; k < 4; k++) sum += a[k * 4 + row]! * b[column * 4 + k]!
      out[column * 4 + row] = sum
    }
  return out
}

/** Determinant of the upper left 3×3 part; negative means mirrored. */
export function linearDeterminant(m: Matrix4): number {
  return (
    m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) -
    m[4]! * (m[1]! * m[10]! - m[2]! * m[9]!) +
    m[8]! * (m[1]! * m[6]! - m[2]! * m[5]!)
  )
}

/**
 * Determinant times the inverse transpose of the upper left 3 × 3 part, signed so that normals of a mirrored
 * node point out.
 */
export function cofactorMatrix(m: Matrix4): number[] {
  const at = (row: number, column: number): number => m[column * 4 + row]!
  const out = new Array<number>(16).fill(0)
  const sign = linearDeterminant(m) < 0 ? -1 : 1
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++) {
      const [r1, r2] = [(row + 1) % 3, (row + 2) % 3],
        [c1, c2] = [(column + 1) % 3, (column + 2) % 3]
      out[column * 4 + row] = sign * (at(r1, c1) * at(r2, c2) - at(r1, c2) * at(r2, c1))
    }
  return out
}

/** Returns points (x y z …) moved by the matrix; `out` may alias the input. */
export function transformPoints(
  points: Float32Array,
  m: Matrix4,
  out = new Float32Array(points.length),
): Float32Array {
  const [a, b, c, , d, e, f, , g, h, i, , x, y, z] = Array.from(m) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ]
  for (let k = 0; k + 2 < points.length; k += 3) {
    const px = points[k]!,
      py = points[k + 1]!,
      pz = points[k + 2]!
    out[k] = a * px + d * py + g * pz + x
    out[k + 1] = b * px + e * py + h * pz + y
    out[k + 2] = c * px + f * py + i * pz + z
  }
  return out
}

/**
 * Vectors of `size` numbers each turned by the linear part of a matrix; `unit`: to a length of 1. Of tangents the fourth
 * number stays, or its sign is flipped.
 */
export function turnVectors(
  vectors: Float32Array,
  size: number,
  m: Matrix4,
  unit: boolean,
  flipSign = false,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(vectors)
  for (let k = 0; k + 2 < out.length; k += size) {
    const [x, y, z] = [vectors[k]!, vectors[k + 1]!, vectors[k + 2]!]
    const turned = [0, 1, 2].map((i) => m[i]! * x + m[4 + i]! * y + m[8 + i]! * z)
    const length = unit ? Math.hypot(...turned) || 1 : 1
    for (let i = 0; i < 3; i++) out[k + i] = turned[i]! / length
    if (size === 4 && flipSign) out[k + 3] = -vectors[k + 3]!
  }
  return out
}

/** x y z w, as glTF stores a turn. */
export type Quaternion = [number, number, number, number]

/** The turn b, then the turn a. */
export function multiplyTurns([ax, ay, az, aw]: Quaternion, [bx, by, bz, bw]: Quaternion): Quaternion {
  return [
    aw * bx + ax * bw + ay * bz - az * by,
    aw * by - ax * bz + ay * bw + az * bx,
    aw * bz + ax * by - ay * bx + az * bw,
    aw * bw - ax * bx - ay * by - az * bz,
  ]
}

/** The matrix of a translation, a turn (x y z w) and a scale, as glTF puts them together. */
export function matrixOf(
  [tx, ty, tz]: readonly [number, number, number],
  [x, y, z, w]: Readonly<Quaternion>,
  [sx, sy, sz]: readonly [number, number, number],
): Float64Array {
  return Float64Array.of(
    (1 - 2 * (y * y + z * z)) * sx,
    2 * (x * y + w * z) * sx,
    2 * (x * z - w * y) * sx,
    0,
    2 * (x * y - w * z) * sy,
    (1 - 2 * (x * x + z * z)) * sy,
    2 * (y * z + w * x) * sy,
    0,
    2 * (x * z + w * y) * sz,
    2 * (y * z - w * x) * sz,
    (1 - 2 * (x * x + y * y)) * sz,
    0,
    tx,
    ty,
    tz,
    1,
  )
}

/** Undoes a matrix whose last row is 0 0 0 1; null where it flattens space. */
export function invertAffine(m: Matrix4): Float64Array | null {
  const d = linearDeterminant(m)
  if (!(Math.abs(d) > 1e-30)) return null
  const a = (r: number, c: number): number => m[c * 4 + r]!
  const out = new Float64Array(16)
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 3; c++) {
      const [r1, r2] = [(c + 1) % 3, (c + 2) % 3],
        [c1, c2] = [(r + 1) % 3, (r + 2) % 3]
      out[c * 4 + r] = (a(r1, c1) * a(r2, c2) - a(r1, c2) * a(r2, c1)) / d
    }
  for (let r = 0; r < 3; r++) out[12 + r] = -(out[r]! * m[12]! + out[4 + r]! * m[13]! + out[8 + r]! * m[14]!)
  out[15] = 1
  return out
}
