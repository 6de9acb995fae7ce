import type { Node } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { nodePaths } from '../../scene/nodePaths'
import { defineRemedy } from '../defineRemedy'
import { dropUnusedSlots } from '../slots/dropUnusedSlots'

export const dropNode = defineRemedy({
  id: 'files/drop-node',
  version: 1,
  station: 'files',
  needs: 'mesh',
  title: 'Drop a node',
  words: ({ node }) => `Drop ${node}`,
  about:
    'Takes a node out with everything below it, and slots that nothing uses then. Bones that a skin ' +
    'follows stay where they are; their textures stay with the asset.',
  options: z.strictObject({
    node: z.string().describe('path of the node').meta({ names: 'node' }),
  }),
  async apply(work, { node: path }, ports) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no nodes' })
    const paths = nodePaths(work.document)
    const found = [...paths].find(([, p]) => p === path)?.[0]
    if (!found) return good({ changed: false, said: `${path} is not there` })
    const root = work.document.getRoot()
    const remains = [...paths.keys()].some((n) => n.getMesh() && !isBelow(n, found))
    if (!remains)
      return bad('remedy/not-applicable', `Without ${path} there would be no mesh left.`, 'Leave it in.', {
        node: path,
      })
    const bones = new Set(root.listSkins().flatMap((s) => s.listJoints()))
    const dropped = drop(found, bones)
    for (const mesh of root.listMeshes())
      if (!root.listNodes().some((n) => n.getMesh() === mesh)) {
        for (const primitive of mesh.listPrimitives()) primitive.dispose()
        mesh.dispose()
      }
    await dropUnusedSlots.apply(work, { slot: null }, ports)
    return good({
      changed: dropped > 0,
      said: `${path} dropped, ${dropped} ${dropped === 1 ? 'node' : 'nodes'}`,
    })
  },
})

const isBelow = (node: Node, above: Node): boolean => {
  for (let at: Node | null = node; at; at = at.getParentNode()) if (at === above) return true
  return false
}

/** Drops a tree but for bones, and gives how many nodes went. */
function drop(node: Node, bones: ReadonlySet<Node>): number {
  let dropped = 0
  for (const child of node.listChildren()) dropped += drop(child, bones)
  if (bones.has(node) || node.listChildren().length > 0) {
    node.setMesh(null)
    return dropped
  }
  node.dispose()
  return dropped + 1
}
