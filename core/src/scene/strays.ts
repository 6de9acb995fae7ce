import type { Document, Node } from '@gltf-transform/core'
import { nodePaths } from './nodePaths'
import { movedNodes } from './movedNodes'

export interface Stray {
  kind: 'light' | 'empty'
  node: string
}

/**
 * Nodes of the shown scene that draw nothing: with a light, or with nothing at all and nothing below. Cameras are
 * views of the asset and no strays. Joints, animated nodes and what an extension says something of are no strays,
 * and neither is an empty node with a name of its own: things are hung on such.
 */
export function strays(document: Document): Stray[] {
  const root = document.getRoot()
  const needed = new Set<Node | null>([
    ...root.listSkins().flatMap((s) => [...s.listJoints(), s.getSkeleton()]),
    ...movedNodes(document),
  ])
  return [...nodePaths(document)].flatMap(([node, path]): Stray[] => {
    const found: Stray[] = []
    if (node.getExtension('KHR_lights_punctual')) found.push({ kind: 'light', node: path })
    if (found.length === 0 && isEmpty(node) && !someBelow(node, (n) => needed.has(n) || hasOwnName(n)))
      found.push({ kind: 'empty', node: path })
    return found
  })
}

/** Whether something holds of a node or of any below it. */
const someBelow = (node: Node, holds: (node: Node) => boolean): boolean =>
  holds(node) || node.listChildren().some((child) => someBelow(child, holds))

/** Words that exporters and modelling scenes give to empty nodes by themselves. */
const GENERIC = new Set([
  'empty',
  'null',
  'node',
  'nodes',
  'group',
  'grp',
  'root',
  'rootnode',
  'scene',
  'locator',
  'dummy',
  'helper',
  'transform',
  'collection',
  'layer',
  'light',
  'lamp',
  'camera',
  'cam',
  'sun',
  'point',
  'spot',
  'area',
  'world',
  'armature',
  'target',
  'axis',
  'pivot',
])

/** A name that somebody gave: a word of it says what the node is for. */
export const hasOwnName = (node: Node): boolean =>
  wordsOf(node.getName()).some((word) => !GENERIC.has(word) && !/^\d+$/.test(word))

const wordsOf = (name: string): string[] =>
  name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/(\d+)/g, ' $1 ')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)

/** A node that holds nothing, or only nodes that hold nothing. */
export const isEmpty = (node: Node): boolean =>
  !node.getMesh() &&
  !node.getCamera() &&
  node.listExtensions().length === 0 &&
  node.listChildren().every(isEmpty)
