import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const vertexColour = defineRule({
  id: 'mesh/vertex-colour',
  station: 'mesh',
  meta: {
    title: 'Vertex colours vary, or are left out',
    why:
      'Vertex colours that are the same everywhere cost memory for nothing; dark ones that an export ' +
      'left behind blacken the base colour.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['vertex colours of every drawn primitive'],
  },
  options: z.strictObject({
    required: z.boolean().default(false).describe('every drawn primitive must carry them'),
  }),
  messages: {
    same: 'Vertex colours {set} are the same at every vertex.',
    missing: { level: 'caution', text: 'There are no vertex colours.' },
  },
  labels: { drop: 'Drop colours {set}' },
  judge(subject, { required }) {
    const findings: RawFinding<'same' | 'missing', 'drop'>[] = []
    if (required)
      for (const { node, primitive } of subject.primitives.drawn)
        if (primitive.triangles > 0 && primitive.colours.length === 0)
          findings.push({
            message: 'missing',
            data: {},
            place: { kind: 'node', node: node.path },
            part: primitive.slot ?? '',
          })
    for (const node of subject.parts.drawn)
      if (node.primitives.some((p) => p.colours.length > 0))
        findings.push(...sameEverywhere(node.primitives, node.path))
    return findings
  },
})

/** Sets that have one value over all primitives of a node. */
function sameEverywhere(
  primitives: readonly { colours: { min: number[]; max: number[] }[] }[],
  node: string,
): RawFinding<'same', 'drop'>[] {
  const sets = Math.max(...primitives.map((p) => p.colours.length))
  return Array.from({ length: sets }, (_, set) => set).flatMap((set) => {
    const found = primitives.flatMap((p) => (p.colours[set] ? [p.colours[set]] : []))
    const first = found[0]!.min
    if (!found.every((c) => [...c.min, ...c.max].every((v, i) => v === first[i % first.length]))) return []
    return [
      {
        message: 'same' as const,
        data: { set },
        place: { kind: 'node' as const, node },
        part: `set ${set}`,
        remedies: [{ remedy: 'mesh/drop-colours', options: { node, set }, label: 'drop' as const }],
      },
    ]
  })
}
