import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const tangents = defineRule({
  id: 'mesh/tangents',
  station: 'mesh',
  meta: {
    title: 'Tangents fit the normal map',
    why: 'A normal map is baked along tangents; broken ones, or another way of computing them, show as seams.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['tangents of every drawn primitive', 'normal maps of the slots'],
  },
  options: z.strictObject({
    required: z
      .boolean()
      .default(false)
      .describe(
        'a primitive with a normal map must carry its tangents; without, they are computed at load time',
      ),
  }),
  messages: {
    broken: '{count|n} of {vertices|n} tangents are not of unit length, or have no handedness (w is not ±1).',
    missing: 'The slot has a normal map, and there are no tangents.',
  },
  labels: { generate: 'Generate tangents' },
  judge(subject, { required }) {
    const findings: RawFinding<'broken' | 'missing', 'generate'>[] = []
    const mapped = new Set<string | null>()
    if (required)
      for (const slot of subject.mesh?.slots ?? [])
        if (slot.textures.some((t) => t.input === 'normal')) mapped.add(slot.name)
    for (const { node, primitive } of subject.primitives.drawn) {
      const broken = primitive.tangents?.broken ?? 0
      if (broken === 0 && (primitive.tangents || primitive.triangles === 0 || !mapped.has(primitive.slot)))
        continue
      const place = { kind: 'node' as const, node: node.path }
      const remedies =
        primitive.normals && primitive.uvChannels.length > 0
          ? [{ remedy: 'mesh/generate-tangents', options: { node: node.path }, label: 'generate' as const }]
          : []
      if (broken > 0)
        findings.push({
          message: 'broken',
          data: { count: broken, vertices: primitive.vertices },
          place,
          part: primitive.slot ?? '',
          measure: broken,
          remedies,
        })
      else findings.push({ message: 'missing', data: {}, place, part: primitive.slot ?? '', remedies })
    }
    return findings
  },
})
