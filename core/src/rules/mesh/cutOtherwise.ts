import * as z from 'zod'
import { comparedSamples, type SharedCuts } from '../../geometry/quadSample'
import { defineRule, type RawFinding } from '../defineRule'

export const cutOtherwise = defineRule({
  id: 'mesh/cut-otherwise',
  station: 'mesh',
  meta: {
    title: 'Quads are cut along the same diagonal in every version and level',
    why:
      'A normal map is baked for triangles: on a quad that is cut along its other diagonal it shades a crease ' +
      'that nobody made.',
    level: 'caution',
    kinds: ['mesh'],
    reads: [
      'pairs of triangles with the same four corners, as far as they are sampled',
      'the version before',
    ],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.1)
      .describe('of the pairs that both have, cut otherwise at most'),
    least: z.int().min(1).default(12).describe('pairs that both must have before anything is said'),
  }),
  messages: {
    version:
      '{other|n} of {shared|n} sampled quads are cut along another diagonal than in version {version}: a normal map that was baked for it no longer fits.',
    versionPlain: {
      level: 'note',
      text: '{other|n} of {shared|n} sampled quads are cut along another diagonal than in version {version}.',
    },
    level:
      '{other|n} of {shared|n} sampled quads of level {level} are cut along another diagonal than in level {finest}: a normal map fits one of the two.',
    levelPlain: {
      level: 'note',
      text: '{other|n} of {shared|n} sampled quads of level {level} are cut along another diagonal than in level {finest}.',
    },
  },
  labels: {},
  judge(subject, { share, least }) {
    const { previous, mesh, parts } = subject
    const isBaked = subject.textures.some((t) => t.role === 'normal')
    const counts = ({ shared, other }: SharedCuts): boolean => shared >= least && other > shared * share
    const found: RawFinding<'version' | 'versionPlain' | 'level' | 'levelPlain'>[] = []
    const cuts = previous?.quads && mesh?.quads ? comparedSamples(mesh.quads, previous.quads) : null
    if (cuts && counts(cuts))
      found.push({
        message: isBaked ? 'version' : 'versionPlain',
        data: { ...cuts, version: previous!.version },
        place: { kind: 'asset' },
        part: 'version',
        measure: cuts.other / cuts.shared,
      })
    const finest = Math.min(...parts.levels.keys())
    for (const { level, cuts: own } of mesh?.chain?.errors ?? []) {
      const node = parts.levels.get(level)?.[0]
      if (!node || !counts(own)) continue
      found.push({
        message: isBaked ? 'level' : 'levelPlain',
        data: { ...own, level, finest },
        place: { kind: 'node', node: node.path },
        part: 'level',
        measure: own.other / own.shared,
      })
    }
    return found
  },
})
