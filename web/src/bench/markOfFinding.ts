import type { AssetState, Finding } from '@stern-gate/contract'
import type { StageMark } from '../stages/stageMarks'

const blobs = new Map<string, Promise<ArrayBuffer>>()

/** What the model stage marks for a finding; triangle lists are fetched when first asked for. Null when nothing is to be marked. */
export async function markOfFinding(finding: Finding | null, state: AssetState): Promise<StageMark | null> {
  const place = finding?.place
  if (!place) return null
  if (place.kind === 'node' || place.kind === 'channel') return { kind: 'node', node: place.node }
  if (place.kind === 'slot') return { kind: 'slot', slot: place.slot }
  if (place.kind !== 'triangles') return null
  const entry = state.mesh?.evidence.find((e) => e.name === place.evidence)
  if (!entry || !state.evidence) return { kind: 'node', node: place.node }
  const bytes = blobs.get(state.evidence) ?? fetch(state.evidence).then((r) => r.arrayBuffer())
  blobs.set(state.evidence, bytes)
  return { kind: 'triangles', node: place.node, primitive: place.primitive, triangles: new Uint32Array(await bytes, entry.offset, entry.length) }
}
