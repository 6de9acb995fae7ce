import type { NodeFacts } from '@stern-gate/contract'

/** Share of the covered sheet that may overlap on a unique channel. */
export const UNIQUE_OVERLAP = 0.001

/**
 * Whether the unique channel of a node stands where the texture's belongs, and the other way round. What
 * follows from that is said once, by uvs/purpose.
 */
export function areSwapped(
  node: NodeFacts,
  { texture, lightmap, overlap }: { texture: number; lightmap: number; overlap: number },
): boolean {
  return isUnique(node, texture, overlap) === true && isUnique(node, lightmap, overlap) === false
}

/**
 * Whether a channel lies inside 0 … 1 and nowhere over itself; null when the node has none or it was not
 * measured.
 */
function isUnique(node: NodeFacts, channel: number, overlap: number): boolean | null {
  const sheet = node.sheets.find((s) => s.channel === channel && s.slot === null)
  const own = node.primitives.flatMap((p) => p.uvChannels.filter((c) => c.channel === channel))
  if (!sheet || own.length < node.primitives.filter((p) => p.triangles > 0).length) return null
  return sheet.overlapped <= sheet.covered * overlap && own.every((c) => c.outside === 0 && !c.allSame)
}
