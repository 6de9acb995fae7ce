import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const normals = defineRule({
  id: 'mesh/normals',
  station: 'mesh',
  meta: {
    title: 'Normals are present, of unit length, and agree with the faces',
    why: 'Light is computed from them; a missing or turned one makes a dark patch that no texture can mend.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['vertex normals of every drawn primitive'],
  },
  options: z.strictObject({
    against: z
      .number()
      .min(0)
      .max(1)
      .default(0.002)
      .describe('share of triangles that may have normals pointing away'),
    angle: z
      .number()
      .min(0)
      .max(180)
      .default(45)
      .describe('degrees between faces from which the remedy keeps an edge hard'),
  }),
  messages: {
    missing: 'There are no normals: {triangles|n|triangle is|triangles are} lit flat or not at all.',
    length: '{count|n} of {vertices|n} normals are not of unit length.',
    against: 'The normals of {count|n} of {triangles|n} triangles point away from the face.',
  },
  labels: { recompute: 'Recompute normals, hard edges from {angle}°' },
  judge(subject, { against, angle }) {
    const findings: RawFinding<'missing' | 'length' | 'against', 'recompute'>[] = []
    for (const { node, primitive } of subject.primitives.drawn) {
      const { normals, triangles, vertices } = primitive
      if (triangles === 0) continue
      const remedies = [
        {
          remedy: 'mesh/recompute-normals',
          options: { node: node.path, angle },
          label: 'recompute' as const,
        },
      ]
      const evidence = `normals-against:${node.path}:${primitive.index}`
      if (!normals)
        findings.push({
          message: 'missing',
          data: { triangles, angle },
          place: { kind: 'node', node: node.path },
          part: primitive.slot ?? '',
          remedies,
        })
      else if (normals.against > triangles * against)
        findings.push({
          message: 'against',
          data: { count: normals.against, triangles, angle },
          place: { kind: 'triangles', node: node.path, primitive: primitive.index, evidence },
          measure: normals.against,
          remedies,
        })
      else if (normals.notUnit > 0)
        findings.push({
          message: 'length',
          data: { count: normals.notUnit, vertices, angle },
          place: { kind: 'node', node: node.path },
          part: primitive.slot ?? '',
          measure: normals.notUnit,
          remedies,
        })
    }
    return findings
  },
})
