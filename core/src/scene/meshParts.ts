import type { NodeFacts } from '@stern-gate/contract'

/** What a mesh node is in its asset. */
export type MeshPart = { kind: 'level'; level: number } | { kind: 'collision' }

const LEVEL = /(?:^|[_\-. ])lod[_\-. ]?(\d{1,2})$/i
/** What such names hold; most hold none of it. */
const MARK = /lod|hull|colli/i
const COLLISION = /(?:^|[_\-. ])(?:hull|collision|collider)[_\-. ]?\d*$/i

/** Tells LOD levels and collision from a name; anything else is level 0. */
export function meshPart(name: string): MeshPart {
  if (!mayMark(name)) return { kind: 'level', level: 0 }
  const level = LEVEL.exec(name)
  if (level) return { kind: 'level', level: Number(level[1]) }
  return COLLISION.test(name) ? { kind: 'collision' } : { kind: 'level', level: 0 }
}

/** Whether a name or a word of one may hold what marks a level or a collision mesh. */
export const mayMark = (name: string): boolean => MARK.test(name)

/** The name without what marks a level or a collision mesh. */
export const baseName = (name: string): string =>
  mayMark(name) ? name.replace(LEVEL, '').replace(COLLISION, '') : name

/** What is needed of a node to tell its part. */
export interface PartNode {
  path: string
  name: string
  mesh: string | null
  parent: string | null
  /** What the file says that it is, where its name says nothing; null: nothing. */
  level: number | null
  primitives: { readonly length: number }
}

/** Nodes with a mesh, sorted into levels and collision; a child of a marked node belongs to the same part. */
export interface Parts<N> {
  /** By level, the finest first. */
  levels: ReadonlyMap<number, readonly N[]>
  /** Nodes of the finest level; empty when nothing is drawn. */
  finest: readonly N[]
  /** Nodes of all levels. */
  drawn: readonly N[]
  collision: readonly N[]
  /** Nodes of all levels, then collision. */
  all: readonly N[]
}
export type PartsOfMesh = Parts<NodeFacts>

export function partsOfMesh<N extends PartNode>(nodes: readonly N[]): Parts<N> {
  const byPath = new Map<string, N>(),
    levels: N[][] = [],
    collision: N[] = []
  for (const node of nodes) byPath.set(node.path, node)
  for (const node of nodes) {
    if (node.primitives.length === 0) continue
    const part = partOf(node, byPath)
    if (part.kind === 'collision') collision.push(node)
    else (levels[part.level] ??= []).push(node)
  }
  return partsFrom(levels, collision)
}

/**
 * A name has two digits for its level at the most, so that the list of levels stays short; those that are not
 * there are holes in it.
 */
function partsFrom<N>(byLevel: N[][], collision: N[]): Parts<N> {
  const levels = new Map<number, N[]>()
  byLevel.forEach((nodes, level) => levels.set(level, nodes))
  const [finest = []] = levels.values(),
    drawn = levels.size === 1 ? finest : byLevel.flat()
  return { levels, finest, drawn, collision, all: collision.length === 0 ? drawn : [...drawn, ...collision] }
}

function partOf<N extends PartNode>(node: N, byPath: Map<string, N>): MeshPart {
  for (let at: N | undefined = node; at; at = at.parent === null ? undefined : byPath.get(at.parent)) {
    const names = at === node ? [at.name, at.mesh ?? ''] : [at.name]
    for (const name of names) {
      const part = meshPart(name)
      if (part.kind === 'collision' || part.level > 0 || LEVEL.test(name)) return part
    }
    if (at.level !== null) return { kind: 'level', level: at.level }
  }
  return { kind: 'level', level: 0 }
}
