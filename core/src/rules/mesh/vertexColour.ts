import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import type { Subject } from '../../subject/subject'
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
        findings.push(...sameEverywhere(node.primitives, node.path, layerSets(subject, node)))
    return findings
  },
})

/** Sets by which the second layers of a node's slots are laid. */
function layerSets(subject: Subject, node: NodeFacts): number[] {
  return node.primitives.flatMap(({ slot }) => {
    const by = subject.mesh?.slots?.find((s) => s.name === slot)?.layer?.by
    return by?.kind === 'vertex' ? [by.set] : []
  })
}

type Ranges = { min: number[]; max: number[] }

/**
 * Sets that have one value over all primitives of a node. glTF counts sets without a gap, so that a white one before
 * a set that is needed has to be there; dropping one would move those behind it.
 */
function sameEverywhere(
  primitives: readonly { colours: Ranges[] }[],
  node: string,
  needed: readonly number[],
): RawFinding<'same', 'drop'>[] {
  const count = Math.max(...primitives.map((p) => p.colours.length))
  const sets = Array.from({ length: count }, (_, set) => {
    const found = primitives.flatMap((p) => (p.colours[set] ? [p.colours[set]] : []))
    const first = found[0]!.min
    const values = found.flatMap((c) => [...c.min, ...c.max])
    return {
      isSame: values.every((v, i) => v === first[i % first.length]),
      isWhite: values.every((v) => v === 1),
    }
  })
  return sets.flatMap(({ isSame, isWhite }, set) => {
    const isBefore = sets.slice(set + 1).some((later) => !later.isSame) || needed.some((n) => n > set)
    if (!isSame || needed.includes(set) || (isWhite && isBefore)) return []
    return [
      {
        message: 'same' as const,
        data: { set },
        place: { kind: 'node' as const, node },
        part: `set ${set}`,
        remedies: isBefore
          ? []
          : [{ remedy: 'mesh/drop-colours', options: { node, set }, label: 'drop' as const }],
      },
    ]
  })
}
