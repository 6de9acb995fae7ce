import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const normalGreen = defineRule({
  id: 'colour/normal-green',
  station: 'colour',
  meta: {
    title: "Green of normal maps points the project's way",
    why: 'With green the wrong way dents become bumps: light comes from below on everything that the map draws.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['curl of the normal map under both signs of green', 'role by input and by name'],
  },
  options: z.strictObject({
    sure: z
      .number()
      .min(0)
      .max(1)
      .default(0.6)
      .describe('confidence from which on it is said outright; below it is a note'),
    isNormal: z
      .number()
      .min(0)
      .max(1)
      .default(0.5)
      .describe('how sure the pixels must be of being a normal map'),
  }),
  messages: {
    wrong:
      'Green points {found}; the project wants it {wanted}. {sure|%} sure. A turned red channel cannot be told from it: where dents stand out as bumps once green is flipped, turn red instead.',
    perhaps: {
      level: 'note',
      text: 'Green seems to point {found}, but only {sure|%} sure; the project wants it {wanted}. Look at it under light.',
    },
    undecided: {
      level: 'note',
      text: 'Which way green points cannot be told: the relief is the same under both. Look at it under light.',
    },
  },
  labels: { flip: 'Flip green', red: 'Turn red instead' },
  judge(subject, options) {
    const findings: RawFinding<'wrong' | 'perhaps' | 'undecided', 'flip' | 'red'>[] = []
    const wanted = subject.rulebook.green
    for (const texture of subject.textures) {
      const isNormal = texture.role === 'normal' || texture.uses.some((use) => use.input === 'normal')
      if (!isNormal || !texture.facts) continue
      const place = { kind: 'texture' as const, texture: texture.name }
      const { normal } = texture.facts
      // What is no normal map has no green to judge; colour/not-a-normal says so
      if (!normal || normal.isNormalMap < options.isNormal) continue
      const { direction, confidence, texels } = normal.green
      if (direction === 'undecided') {
        // A flat map has no direction, and that is fine
        if (texels >= 64) findings.push({ message: 'undecided', data: {}, place })
        continue
      }
      if (direction === wanted) continue
      findings.push({
        message: confidence >= options.sure ? 'wrong' : 'perhaps',
        data: { found: direction, wanted, sure: confidence },
        place,
        gauge: {
          value: direction === 'up' ? confidence : -confidence,
          unit: 'sure',
          ...(wanted === 'up' ? { min: 0, max: 1 } : { min: -1, max: 0 }),
          scale: 'linear',
        },
        remedies: [
          { remedy: 'colour/flip-green', options: { texture: texture.name }, label: 'flip' },
          // Of (−x, y) and (x, −y) one is the other with its relief turned over: their curl says the same
          {
            remedy: 'colour/invert',
            options: { texture: texture.name, channel: 'R', becomes: null },
            label: 'red',
          },
        ],
      })
    }
    return findings
  },
})
