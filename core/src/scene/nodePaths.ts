import type { Document, Node, Scene } from '@gltf-transform/core'

/**
 * Stable names of nodes: names from the root joined by /, unnamed nodes as (node), doubled names of siblings
 * with #2, #3 …
 */
export function nodePaths(document: Document): Map<Node, string> {
  const paths = new Map<Node, string>()
  const walk = (siblings: Node[], prefix: string): void => {
    const seen = new Map<string, number>()
    for (const node of siblings) {
      if (paths.has(node)) continue
      const name = node.getName() || '(node)'
      const count = (seen.get(name) ?? 0) + 1
      seen.set(name, count)
      const path = `${prefix}${name}${count > 1 ? `#${count}` : ''}`
      paths.set(node, path)
      walk(node.listChildren(), `${path}/`)
    }
  }
  walk(shownNodes(document), '')
  return paths
}

/** The scene that a viewer opens first; null when the file has none. */
export function shownScene(document: Document): Scene | null {
  const root = document.getRoot()
  return root.getDefaultScene() ?? root.listScenes()[0] ?? null
}

/** Root nodes of the shown scene; without a scene all nodes that have no parent. */
export function shownNodes(document: Document): Node[] {
  const scene = shownScene(document)
  if (scene) return scene.listChildren()
  return document
    .getRoot()
    .listNodes()
    .filter((node) => !node.getParentNode())
}
