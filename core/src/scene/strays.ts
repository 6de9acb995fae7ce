import type { Document, Node } from '@gltf-transform/core'
import { nodePaths } from './nodePaths'

export interface Stray {
  kind: 'light' | 'camera' | 'empty'
  node: string
}

/**
 * Nodes of the shown scene that draw nothing: with a light, with a camera, or with nothing at all and nothing
 * below; joints and animated nodes are no strays.
 */
export function strays(document: Document): Stray[] {
  const root = document.getRoot()
  const needed = new Set<Node | null>([
    ...root.listSkins().flatMap((s) => [...s.listJoints(), s.getSkeleton()]),
    ...root.listAnimations().flatMap((a) => a.listChannels().map((c) => c.getTargetNode())),
  ])
  return [...nodePaths(document)].flatMap(([node, path]): Stray[] => {
    const found: Stray[] = []
    if (node.getExtension('KHR_lights_punctual')) found.push({ kind: 'light', node: path })
    if (node.getCamera()) found.push({ kind: 'camera', node: path })
    if (found.length === 0 && isEmpty(node) && !needed.has(node)) found.push({ kind: 'empty', node: path })
    return found
  })
}

/** A node that holds nothing, or only nodes that hold nothing. */
export const isEmpty = (node: Node): boolean =>
  !node.getMesh() &&
  !node.getCamera() &&
  node.listExtensions().length === 0 &&
  node.listChildren().every(isEmpty)
