import { generateTangents as mikktspace } from 'three/examples/jsm/libs/mikktspace.module.js'

/**
 * MikkTSpace tangents of unindexed triangles, x y z and the bitangent's sign for each corner, with the sign that glTF
 * has: v points down there.
 */
export function cornerTangents(
  positions: Float32Array,
  normals: Float32Array,
  uv: Float32Array,
): Float32Array {
  const tangents = mikktspace(positions, normals, uv)
  for (let k = 3; k < tangents.length; k += 4) tangents[k] = -tangents[k]!
  return tangents
}
