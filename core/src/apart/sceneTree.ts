import type { NodeFacts } from '@stern-gate/contract'
import { identityMatrix, matrixOf, multiplyMatrices, type Matrix4 } from '../geometry/matrix'
import { meshPart, type MeshPart } from '../scene/meshParts'

/** What taking apart looks at of a node. */
export type SceneNodeFacts = Pick<
  NodeFacts,
  'path' | 'name' | 'parent' | 'mesh' | 'translation' | 'rotation' | 'scale' | 'bounds' | 'copyOf'
> & {
  primitives: readonly Pick<NodeFacts['primitives'][number], 'triangles' | 'vertices' | 'slot'>[]
}

/** A node of a scene among its neighbours. */
export interface SceneNode {
  path: string
  /** Its own name, else that of its mesh, else nothing. */
  name: string
  facts: SceneNodeFacts
  parent: SceneNode | null
  children: SceneNode[]
  /** It has a mesh of its own. */
  mesh: boolean
  /** Mesh nodes from here down. */
  meshes: SceneNode[]
  part: MeshPart
  world: Matrix4
}

export interface SceneTree {
  roots: SceneNode[]
  /** In the order of the file. */
  meshes: SceneNode[]
  byPath: ReadonlyMap<string, SceneNode>
}

/** Puts the nodes of a file together as a tree; parents stand before their children. */
export function sceneTree(facts: readonly SceneNodeFacts[]): SceneTree {
  const byPath = new Map<string, SceneNode>()
  const roots: SceneNode[] = []
  for (const node of facts) {
    const parent = node.parent === null ? null : (byPath.get(node.parent) ?? null)
    const made: SceneNode = {
      path: node.path,
      name: node.name || node.mesh || '',
      facts: node,
      parent,
      children: [],
      mesh: node.primitives.length > 0,
      meshes: [],
      part: partOf(node, parent),
      world: multiplyMatrices(
        parent?.world ?? identityMatrix,
        matrixOf(node.translation, node.rotation, node.scale),
      ),
    }
    byPath.set(node.path, made)
    ;(parent?.children ?? roots).push(made)
    if (made.mesh) for (let at: SceneNode | null = made; at; at = at.parent) at.meshes.push(made)
  }
  return { roots, meshes: [...byPath.values()].filter((n) => n.mesh), byPath }
}

/** A mark on the node or on its mesh counts, else that of what it hangs on. */
function partOf(node: SceneNodeFacts, parent: SceneNode | null): MeshPart {
  for (const name of [node.name, node.mesh ?? '']) {
    const part = meshPart(name)
    if (part.kind === 'collision' || part.level > 0) return part
  }
  return parent?.part ?? { kind: 'level', level: 0 }
}
