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
