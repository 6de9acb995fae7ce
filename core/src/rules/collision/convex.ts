import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const convex = defineRule({
  id: 'collision/convex',
  station: 'collision',
  meta: {
    title: 'Collision shapes are closed and convex',
    why: 'Moving things are tested against convex shapes only; a hollow or open one is filled up, or falls through the world.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['shells of the collision meshes against their hulls'],
  },
  options: z.strictObject({
    required: z.boolean().default(true).describe("the project's physics wants convex shapes"),
  }),
  messages: {
    open: 'The collision mesh is not closed: {edges|n} open edges.',
    touching:
      'Where {edges|n|edge belongs|edges belong} to three triangles or more its shapes cannot be ' +
      'told apart; keep them clear of one another.',
    hollow: 'The collision mesh is not convex: it fills {share|%} of its hull.',
    unknown: {
      level: 'note',
      text: 'Whether it is convex was not measured: it has {triangles|n} triangles, too many for a collision mesh.',
    },
  },
  labels: {},
  judge(subject, { required }) {
    if (!required) return []
    const findings: RawFinding<'open' | 'touching' | 'hollow' | 'unknown'>[] = []
    for (const node of subject.parts.collision) {
      const triangles = node.primitives.reduce((sum, p) => sum + p.triangles, 0),
        place = { kind: 'node' as const, node: node.path }
      if (triangles === 0 || node.hull?.convex) continue
      if (!node.hull || !node.topology) findings.push({ message: 'unknown', data: { triangles }, place })
      else if (node.topology.openEdges > 0)
        findings.push({
          message: 'open',
          data: { edges: node.topology.openEdges },
          place,
          measure: node.topology.openEdges,
        })
      else if (node.topology.nonManifoldEdges > 0)
        findings.push({
          message: 'touching',
          data: { edges: node.topology.nonManifoldEdges },
          place,
          measure: node.topology.nonManifoldEdges,
        })
      else {
        const share = node.hull.volume > 0 ? node.topology.volume / node.hull.volume : 0
        findings.push({
          message: 'hollow',
          data: { share },
          place,
          gauge: { value: share, unit: 'share', min: 0.999, scale: 'linear' },
          measure: share,
        })
      }
    }
    return findings
  },
})
