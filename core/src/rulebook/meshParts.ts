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

/** Nodes with a mesh, sorted into levels and collision; a child of a marked node belongs to the same part. */
export interface PartsOfMesh { levels: Map<number, NodeFacts[]>; collision: NodeFacts[] }

export function partsOfMesh(nodes: readonly NodeFacts[]): PartsOfMesh {
  const byPath = new Map(nodes.map((n) => [n.path, n]))
  const parts: PartsOfMesh = { levels: new Map(), collision: [] }
  for (const node of nodes) {
    if (node.primitives.length === 0) continue
    const part = partOf(node, byPath)
    if (part.kind === 'collision') parts.collision.push(node)
    else parts.levels.set(part.level, [...(parts.levels.get(part.level) ?? []), node])
  }
  return parts
}

function partOf(node: NodeFacts, byPath: Map<string, NodeFacts>): MeshPart {
  for (let at: NodeFacts | undefined = node; at; at = at.parent === null ? undefined : byPath.get(at.parent)) {
    const names = at === node ? [at.name, at.mesh ?? ''] : [at.name]
    for (const name of names) {
      const part = meshPart(name)
      if (part.kind === 'collision' || part.level > 0 || LEVEL.test(name)) return part
    }
  }
  return { kind: 'level', level: 0 }
}
