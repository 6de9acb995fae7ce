import type { Node, Primitive, Skin } from '@gltf-transform/core'
import { identityMatrix, multiplyMatrices, transformPoints } from '../geometry/matrix'
import { floatsOf } from './primitiveView'

/**
 * Positions of a primitive in the world, in metres. A skinned mesh stands where its joints put it, its own
 * node does not count (glTF 2.0, 3.7.3.3); others follow their node. Where that changes nothing the given
 * positions come back: do not write to them.
 */
export function worldPositions(node: Node, primitive: Primitive, local: Float32Array): Float32Array {
  const skin = node.getSkin()
  const joints = primitive.getAttribute('JOINTS_0'),
    weights = primitive.getAttribute('WEIGHTS_0')
  if (skin && joints && weights) return skinnedPositions(skin, floatsOf(joints), floatsOf(weights), local)
  const matrix = node.getWorldMatrix()
  return matrix.every((v, i) => v === identityMatrix[i]) ? local : transformPoints(local, matrix)
}

function skinnedPositions(
  skin: Skin,
  joints: Float32Array,
  weights: Float32Array,
  local: Float32Array,
): Float32Array {
  const matrices = jointMatrices(skin)
  const out = new Float32Array(local.length)
  for (let v = 0; v * 3 + 2 < local.length; v++) {
    const x = local[v * 3]!,
      y = local[v * 3 + 1]!,
      z = local[v * 3 + 2]!
    let total = 0
    for (let k = 0; k < 4; k++) {
      const w = weights[v * 4 + k] ?? 0
      const m = matrices[joints[v * 4 + k] ?? 0]
      if (w === 0 || !m) continue
      total += w
      out[v * 3]! += w * (m[0]! * x + m[4]! * y + m[8]! * z + m[12]!)
      out[v * 3 + 1]! += w * (m[1]! * x + m[5]! * y + m[9]! * z + m[13]!)
      out[v * 3 + 2]! += w * (m[2]! * x + m[6]! * y + m[10]! * z + m[14]!)
    }
    if (total > 0 && Math.abs(total - 1) > 1e-3) for (let c = 0; c < 3; c++) out[v * 3 + c]! /= total
  }
  return out
}

function jointMatrices(skin: Skin): Float64Array[] {
  const inverse = skin.getInverseBindMatrices()
  const values = inverse ? floatsOf(inverse) : null
  return skin
    .listJoints()
    .map((joint, i) =>
      multiplyMatrices(
        joint.getWorldMatrix(),
        values ? values.subarray(i * 16, i * 16 + 16) : identityMatrix,
      ),
    )
}
