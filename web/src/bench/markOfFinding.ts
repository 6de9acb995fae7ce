import type { AssetState, EvidenceEntry, Finding } from '@stern-gate/contract'
import type { StageMark } from '../stages/stageMarks'

const blobs = new Map<string, Promise<ArrayBuffer>>()

/**
 * What the model stage marks for a finding; triangle lists are fetched when first asked for. Null when
 * nothing is to be marked.
 */
export async function markOfFinding(finding: Finding | null, state: AssetState): Promise<StageMark | null> {
  const place = finding?.place
  if (!place) return null
  if (place.kind === 'node' || place.kind === 'channel') return { kind: 'node', node: place.node }
  if (place.kind === 'slot') return { kind: 'slot', slot: place.slot }
  if (place.kind !== 'triangles') return null
  const entry = state.mesh?.evidence.find((e) => e.name === place.evidence)
  const triangles = entry ? await trianglesOf(state, entry) : null
  return triangles
    ? { kind: 'triangles', node: place.node, primitive: place.primitive, triangles }
    : { kind: 'node', node: place.node }
}

/** A triangle list of the evidence; fetched once for each blob. Null when there is none. */
export async function trianglesOf(state: AssetState, entry: EvidenceEntry): Promise<Uint32Array | null> {
  const address = state.evidence[entry.file ?? '']
  if (!address) return null
  const bytes = blobs.get(address) ?? fetch(address).then((r) => r.arrayBuffer())
  blobs.set(address, bytes)
  return new Uint32Array(await bytes, entry.offset, entry.length)
}
