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
  options: z.strictObject({ required: z.boolean().default(false).describe('a primitive with a normal map must carry its tangents; without, they are computed at load time') }),
  messages: {
    broken: '{count|n} of {vertices|n} tangents are not unit long or have no sign.',
    missing: 'The slot has a normal map, and there are no tangents.',
  },
  labels: { generate: 'Compute them anew' },
  judge(subject, { required }) {
    const findings: RawFinding<'broken' | 'missing', 'generate'>[] = []
    const mapped = new Set((subject.mesh?.slots ?? []).filter((s) => s.textures.some((t) => t.input === 'normal')).map((s) => s.name))
    for (const { node, primitive } of subject.primitives.drawn) {
      const place = { kind: 'node' as const, node: node.path }
      const remedies = primitive.normals && primitive.uvChannels.length > 0 ? [{ remedy: 'mesh/generate-tangents', options: { node: node.path }, label: 'generate' as const }] : []
      if (primitive.tangents && primitive.tangents.broken > 0) findings.push({ message: 'broken', data: { count: primitive.tangents.broken, vertices: primitive.vertices }, place, measure: primitive.tangents.broken, remedies })
      else if (required && !primitive.tangents && primitive.triangles > 0 && primitive.slot !== null && mapped.has(primitive.slot)) findings.push({ message: 'missing', data: {}, place, remedies })
    }
    return findings
  },
})
