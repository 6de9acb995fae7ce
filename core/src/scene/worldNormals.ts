import type { Node, Primitive } from '@gltf-transform/core'
import { cofactorMatrix, turnVectors } from '../geometry/matrix'
import { floatsOf } from './primitiveView'

/** The normals of a primitive where its node stands, of length 1; null where it has none. Skins are not bent. */
export function worldNormals(node: Node, primitive: Primitive): Float32Array | null {
  const accessor = primitive.getAttribute('NORMAL')
  return accessor && turnVectors(floatsOf(accessor), 3, cofactorMatrix(node.getWorldMatrix()), true)
}
