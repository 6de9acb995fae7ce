import { invertAffine, multiplyMatrices, type Matrix4 } from '../geometry/matrix'
import type { SceneNode } from './sceneTree'
import type { NodeGroup } from './ways'

/** A group and further ones that are the same thing elsewhere. */
export interface FoldedGroup extends NodeGroup {
  copies: NodeGroup[]
}

/** Where the mesh that a node shows stands: the node's place, and the shift of a copy's points. */
function placeOf(node: SceneNode): { mesh: string; place: Matrix4 } {
  const { copyOf } = node.facts
  if (!copyOf) return { mesh: node.path, place: node.world }
  const [x, y, z] = copyOf.shift
  return {
    mesh: copyOf.node,
    place: multiplyMatrices(node.world, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1]),
  }
}

/** How the thing of one group is moved onto that of another; null where they are not the same thing. */
export function moveBetween(from: NodeGroup, to: NodeGroup): Matrix4 | null {
  if (from.nodes.length !== to.nodes.length) return null
  const a = from.nodes.map(placeOf),
    b = to.nodes.map(placeOf)
  const back = a[0] && invertAffine(a[0].place)
  if (!back || a.some((p, i) => p.mesh !== b[i]!.mesh)) return null
  const move = multiplyMatrices(b[0]!.place, back)
  return a.every((p, i) => samePlace(multiplyMatrices(move, p.place), b[i]!.place)) ? move : null
}

function samePlace(a: Matrix4, b: Matrix4): boolean {
  let most = 1e-6
  for (let k = 0; k < 16; k++) most = Math.max(most, Math.abs(b[k]!))
  for (let k = 0; k < 16; k++) if (!(Math.abs(a[k]! - b[k]!) <= most * 1e-4)) return false
  return true
}

/** Groups that show the same meshes, standing alike to one another, become one with copies. Order is kept. */
export function foldCopies(groups: readonly NodeGroup[]): FoldedGroup[] {
  const folded: FoldedGroup[] = []
  const byMeshes = new Map<string, FoldedGroup[]>()
  for (const group of groups) {
    const key = group.nodes.map((n) => n.facts.copyOf?.node ?? n.path).join('\n')
    const known = byMeshes.get(key) ?? []
    const same = known.find((k) => moveBetween(k, group) !== null)
    if (same) same.copies.push(group)
    else {
      const made = { ...group, copies: [] }
      folded.push(made)
      byMeshes.set(key, [...known, made])
    }
  }
  return folded
}
