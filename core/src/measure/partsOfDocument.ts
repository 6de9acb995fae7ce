import type { Document, Node, Primitive } from '@gltf-transform/core'
import type { Bounds } from '@stern-gate/contract'
import { joinBounds, pointBounds } from '../geometry/pointBounds'
import { saidLevels } from '../read/lodExtension'
import { nodePaths } from '../scene/nodePaths'
import { primitiveView } from '../scene/primitiveView'
import { worldPositions } from '../scene/worldPositions'
import { partsOfMesh, type PartNode, type Parts } from '../scene/meshParts'

export interface DocumentNode extends PartNode {
  node: Node
  primitives: Primitive[]
}

/** Levels and collision of a Document, told by names alone: nothing is measured. */
export function partsOfDocument(document: Document): Parts<DocumentNode> {
  const paths = nodePaths(document),
    said = saidLevels(document)
  return partsOfMesh(
    [...paths].map(([node, path]) => ({
      node,
      path,
      name: node.getName(),
      mesh: node.getMesh()?.getName() ?? null,
      parent: paths.get(node.getParentNode()!) ?? null,
      level: said.get(node) ?? null,
      primitives: node.getMesh()?.listPrimitives() ?? [],
    })),
  )
}

/** Box around the finest level in the world; null when nothing is drawn. */
export const finestBounds = (document: Document): Bounds | null =>
  joinBounds(
    partsOfDocument(document).finest.flatMap(({ node, primitives }) =>
      primitives.map((p) => pointBounds(worldPositions(node, p, primitiveView(p).positions))),
    ),
  )
