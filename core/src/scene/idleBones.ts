import type { Document, Node, Skin } from '@gltf-transform/core'
import { floatsOf } from './primitiveView'
import { nodePaths } from './nodePaths'
import { movedNodes } from './movedNodes'

/**
 * Bones at the end of a chain that move nothing: no vertex follows them or a bone below them, nothing else hangs on
 * them, and no clip moves them. Whether they are wanted – to hang things on – nobody can see from here.
 */
export function idleBones(document: Document): Node[] {
  const root = document.getRoot()
  const bones = new Set(root.listSkins().flatMap((s) => s.listJoints()))
  if (bones.size === 0) return []
  const used = new Set(root.listSkins().flatMap((skin) => usedJoints(document, skin)))
  const moved = movedNodes(document)
  const isIdle = (node: Node): boolean =>
    bones.has(node) &&
    !used.has(node) &&
    !moved.has(node) &&
    !node.getMesh() &&
    !node.getCamera() &&
    node.listExtensions().length === 0 &&
    node.listChildren().every(isIdle)
  return [...nodePaths(document).keys()].filter(isIdle)
}

/** Joints that a vertex of any mesh with this skin follows. */
function usedJoints(document: Document, skin: Skin): Node[] {
  const joints = skin.listJoints()
  const used = new Set<number>()
  const meshes = new Set(
    document
      .getRoot()
      .listNodes()
      .filter((n) => n.getSkin() === skin)
      .flatMap((n) => n.getMesh() ?? []),
  )
  for (const primitive of [...meshes].flatMap((m) => m.listPrimitives()))
    for (let n = 0; ; n++) {
      const joint = primitive.getAttribute(`JOINTS_${n}`),
        weight = primitive.getAttribute(`WEIGHTS_${n}`)
      if (!joint || !weight) break
      const numbers = joint.getArray()!,
        weights = floatsOf(weight)
      for (let k = 0; k < weights.length; k++) if (weights[k]! > 0) used.add(numbers[k]!)
    }
  return joints.filter((_, i) => used.has(i))
}
