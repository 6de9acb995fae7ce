/** A normal counts as unit long within this. */
export const NORMAL_LENGTH_TOLERANCE = 0.02

export interface NormalAgreement {
  notUnit: number
  /** Triangles whose corner normals, added up, point away from the face. */
  against: Uint32Array
}

/**
 * Compares vertex normals (x y z, any space) with the faces of the positions in the same space; counter-clockwise is the front, or clockwise when `mirrored`. Indices
 * must be good or are passed over.
 */
export function normalAgreement(positions: Float32Array, normals: Float32Array, indices: Uint32Array, mirrored: 'mirrored' | 'plain'): NormalAgreement {
  const vertices = Math.min(positions.length, normals.length) / 3
  let notUnit = 0
  for (let k = 0; k + 2 < normals.length; k += 3) {
    const length = Math.sqrt(normals[k]! * normals[k]! + normals[k + 1]! * normals[k + 1]! + normals[k + 2]! * normals[k + 2]!)
    if (!(Math.abs(length - 1) <= NORMAL_LENGTH_TOLERANCE)) notUnit++
  }
  const against: number[] = []
  const sign = mirrored === 'mirrored' ? -1 : 1
  for (let t = 0; t * 3 + 2 < indices.length; t++) {
    const i = indices[t * 3]!, j = indices[t * 3 + 1]!, k = indices[t * 3 + 2]!
    if (i >= vertices || j >= vertices || k >= vertices) continue
    const a = i * 3, b = j * 3, c = k * 3
    const ux = positions[b]! - positions[a]!, uy = positions[b + 1]! - positions[a + 1]!, uz = positions[b + 2]! - positions[a + 2]!
    const vx = positions[c]! - positions[a]!, vy = positions[c + 1]! - positions[a + 1]!, vz = positions[c + 2]! - positions[a + 2]!
    const nx = normals[a]! + normals[b]! + normals[c]!, ny = normals[a + 1]! + normals[b + 1]! + normals[c + 1]!, nz = normals[a + 2]! + normals[b + 2]! + normals[c + 2]!
    if (((uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz) * sign < 0) against.push(t)
  }
  return { notUnit, against: Uint32Array.from(against) }
}

/** Tangents (x y z w) that are not unit long or have another sign than 1 or −1. */
export function brokenTangents(tangents: Float32Array): number {
  let broken = 0
  for (let k = 0; k + 3 < tangents.length; k += 4) {
    const length = Math.sqrt(tangents[k]! ** 2 + tangents[k + 1]! ** 2 + tangents[k + 2]! ** 2)
    if (!(Math.abs(length - 1) <= NORMAL_LENGTH_TOLERANCE) || Math.abs(tangents[k + 3]!) !== 1) broken++
  }
  return broken
}
