import type { NodeFacts } from '@stern-gate/contract'

/** What a mesh node is in its asset. */
export type MeshPart = { kind: 'level'; level: number } | { kind: 'collision' }

const LEVEL = /(?:^|[_\-. ])lod[_\-. ]?(\d{1,2})$/i
const COLLISION = /(?:^|[_\-. ])(?:hull|collision|collider)[_\-. ]?\d*$/i

/** Tells LOD levels and collision from a name; anything else is level 0. */
export function meshPart(name: string): MeshPart {
  const level = LEVEL.exec(name)
  if (level) return { kind: 'level', level: Number(level[1]) }
  return COLLISION.test(name) ? { kind: 'collision' } : { kind: 'level', level: 0 }
}

/** The name without what marks a level or a collision mesh. */
export const baseName = (name: string): string => name.replace(LEVEL, '').replace(COLLISION, '')

/** What is needed of a node to tell its part. */
export interface PartNode { path: string; name: string; mesh: string | null; parent: string | null; primitives: { readonly length: number } }

/** Nodes with a mesh, sorted into levels and collision; a child of a marked node belongs to the same part. */
export interface Parts<N> { levels: Map<number, N[]>; collision: N[] }
export type PartsOfMesh = Parts<NodeFacts>

export function partsOfMesh<N extends PartNode>(nodes: readonly N[]): Parts<N> {
  const byPath = new Map(nodes.map((n) => [n.path, n]))
  const parts: Parts<N> = { levels: new Map(), collision: [] }
  for (const node of nodes) {
    if (node.primitives.length === 0) continue
    const part = partOf(node, byPath)
    if (part.kind === 'collision') parts.collision.push(node)
    else {
      const level = parts.levels.get(part.level)
      if (level) level.push(node)
      else parts.levels.set(part.level, [node])
    }
  }
  return parts
}

/** Nodes of the finest level; empty when nothing is drawn. */
export const finestLevel = <N>(parts: Parts<N>): N[] => parts.levels.get(Math.min(...parts.levels.keys())) ?? []

function partOf<N extends PartNode>(node: N, byPath: Map<string, N>): MeshPart {
  for (let at: N | undefined = node; at; at = at.parent === null ? undefined : byPath.get(at.parent)) {
    const names = at === node ? [at.name, at.mesh ?? ''] : [at.name]
    for (const name of names) {
      const part = meshPart(name)
      if (part.kind === 'collision' || part.level > 0 || LEVEL.test(name)) return part
    }
  }
  return { kind: 'level', level: 0 }
}
