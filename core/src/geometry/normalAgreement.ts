import { append, BLOCK, inBlocks, inKernels, triangleBlocks } from '../kernels/inKernels'

/** A normal counts as unit long within this. */
export const NORMAL_LENGTH_TOLERANCE = 0.02

export interface NormalAgreement {
  notUnit: number
  /** Triangles whose corner normals, added up, point away from the face. */
  against: Uint32Array
}

/**
 * Compares vertex normals (x y z, any space) with the faces of the positions in the same space;
 * counter-clockwise is the front, or clockwise when `mirrored`. Indices must be good or are passed over.
 */
export function normalAgreement(
  positions: Float32Array,
  normals: Float32Array,
  indices: Uint32Array,
  mirrored: 'mirrored' | 'plain',
): NormalAgreement {
  const vertices = Math.floor(Math.min(positions.length, normals.length) / 3),
    sign = mirrored === 'mirrored' ? -1 : 1
  const against: number[] = []
  const notUnit = inKernels((room) => {
    const { run } = room
    const points = room.hold(positions),
      directions = room.hold(normals),
      found = room.space(Math.min(indices.length, BLOCK) * 4)
    let count = 0
    inBlocks(Math.floor(normals.length / 3), (from, to) => {
      count += run.notUnit(directions, from, to, NORMAL_LENGTH_TOLERANCE)
    })
    triangleBlocks(room, indices, (at, from, block) =>
      append(
        against,
        room.words(found, run.normalsAgainst(points, directions, vertices, at, block, from, sign, found)),
      ),
    )
    return count
  })
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
