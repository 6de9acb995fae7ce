import * as z from 'zod'
import { trianglesPlace } from '../trianglesPlace'
import { bodyAround } from '../../subject/innerWall'
import { defineRule, type RawFinding } from '../defineRule'

export const insideOut = defineRule({
  id: 'mesh/inside-out',
  station: 'mesh',
  meta: {
    title: 'Every face points outward',
    why: 'A face that points inward is not drawn, throws no shadow, and lets balls in but not out.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['signed volume of closed shells', 'facing of neighbours'],
  },
  options: z.strictObject({
    allowed: z.int().min(0).default(0).describe('triangles tolerated in one node'),
    within: z
      .array(z.string())
      .default([])
      .describe(
        'classes of things that are seen from within, such as skies: they may face inward as a whole',
      ),
  }),
  messages: {
    turned: '{count|n} of {total|n} triangles face inward, or against the rest of their shell.',
    wall: {
      level: 'note',
      text:
        'All {count|n} triangles face inward, within the closed body {around}: taken for its inner ' +
        'wall. A thing of its own would be inside out.',
    },
  },
  labels: { turn: 'Turn {count|triangles}' },
  judge(subject, { allowed, within }) {
    if (within.includes(subject.className)) return []
    const findings: RawFinding<'turned' | 'wall', 'turn'>[] = []
    for (const node of subject.parts.all) {
      const count = node.topology?.insideOut ?? 0
      if (count <= allowed) continue
      const total = node.primitives.reduce((sum, p) => sum + p.triangles, 0)
      const around = bodyAround(node, subject.parts.all)
      findings.push({
        message: around ? 'wall' : 'turned',
        data: around ? { count, around: around.name || around.path } : { count, total },
        place: trianglesPlace(subject, node, 'inside-out'),
        identity: { kind: 'node', node: node.path },
        measure: count,
        gauge: { value: count, unit: 'triangles', max: allowed, scale: 'linear' },
        remedies: [{ remedy: 'mesh/turn-facing', options: { node: node.path }, label: 'turn' }],
      })
    }
    return findings
  },
})
