import type { Finding, NodeFacts, Place } from '@stern-gate/contract'
import type { Subject } from '../subject/subject'

/**
 * Findings of one rule that say the same of nodes whose meshes are alike – the same geometry, wherever it
 * stands – become one with several places: eleven equal coins speak once. The one that comes first by the
 * node's name stands for all, so that another order in the file gives the same. `parts` tells apart what the
 * places of the findings do not: slots of one node.
 */
export function joinAlike(
  findings: readonly Finding[],
  subject: Subject,
  parts: readonly (string | undefined)[] = [],
): Finding[] {
  if (findings.length < 2) return [...findings]
  const kindOf = likenessOf(subject)
  const joined = new Map<string, Finding[]>(),
    out: Finding[] = []
  for (const [i, finding] of findings.entries()) {
    const node = nodeOf(finding.place),
      kind = node === null ? sameWords(finding) : kindOf(node)
    if (kind === null) {
      out.push(finding)
      continue
    }
    const key = `${finding.waived ? JSON.stringify(finding.waived) : ''} ${finding.rule} ${finding.message} ${finding.level} ${kind} ${partOf(finding.place)} ${parts[i] ?? ''}`
    const known = joined.get(key)
    if (known) known.push(finding)
    else joined.set(key, [finding])
  }
  for (const group of joined.values()) out.push(oneOf(group))
  return out
}

const nodeOf = (place: Place): string | null => ('node' in place ? place.node : null)

/** What is said of a texture, and what is offered for it; null for findings about anything else. */
const sameWords = ({ place, text, remedies }: Finding): string | null =>
  place.kind === 'texture' ? `texture ${text} ${remedies.map((r) => `${r.remedy} ${r.label}`).join()}` : null

/** Name of the node or texture that a finding is about. */
const nameOf = (place: Place): string => nodeOf(place) ?? (place.kind === 'texture' ? place.texture : '')

/** What a place names besides its node. */
const partOf = (place: Place): string =>
  place.kind === 'triangles'
    ? `part ${place.primitive}`
    : place.kind === 'channel'
      ? `UV${place.channel}`
      : ''

function oneOf(group: Finding[]): Finding {
  if (group.length === 1) return group[0]!
  const sorted = [...group].sort((a, b) => (nameOf(a.place) < nameOf(b.place) ? -1 : 1))
  const [first, ...others] = sorted as [Finding, ...Finding[]]
  const isTexture = first.place.kind === 'texture',
    thing = isTexture ? 'texture' : 'node'
  const count = others.length === 1 ? `one more ${thing}` : `${others.length} more ${thing}s`
  const same = others.every((f) => f.text === first.text)
  return {
    ...first,
    text: `${first.text} ${same ? 'The same holds of' : 'Likewise'} ${count}${isTexture ? '' : ' with the same mesh'}.`,
    also: others.map((f) => f.place),
    alike: others.map((f) => f.fingerprint),
    remedies: first.remedies.map((offer, i) => ({
      ...offer,
      also: others.flatMap((f) => (f.remedies[i]?.remedy === offer.remedy ? [f.remedies[i].options] : [])),
    })),
  }
}

/** For each node a text that is the same for nodes whose meshes are alike; null for a node that is not known. */
function likenessOf({ mesh }: Subject): (node: string) => string | null {
  const byPath = new Map((mesh?.nodes ?? []).map((n) => [n.path, n])),
    known = new Map<string, string>()
  return (path) => {
    const node = byPath.get(path)
    if (!node || node.primitives.length === 0) return null
    const likeness = known.get(path) ?? likenessOfNode(node)
    known.set(path, likeness)
    return likeness
  }
}

/** Everything about a mesh that does not hang on where it stands, with sizes to four figures. */
function likenessOfNode({ primitives, topology, skinned }: NodeFacts): string {
  const rounded = (v: number): string => v.toPrecision(4)
  const parts = primitives.map((p) => [
    p.slot,
    p.mode,
    p.triangles,
    p.vertices,
    rounded(p.area),
    p.degenerate,
    p.doubled,
    p.attributes.join(),
    p.uvChannels.map((c) => [c.channel, c.islands, rounded(c.uvArea), c.mirrored]),
  ])
  const whole = topology && [topology.points, topology.shells, topology.openEdges, topology.nonManifoldEdges]
  return JSON.stringify([skinned, parts, whole])
}
