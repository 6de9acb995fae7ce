import * as z from 'zod'
import type { NormalFacts } from '@stern-gate/contract'
import { defineRule, type RawFinding } from '../defineRule'

export const notANormal = defineRule({
  id: 'colour/not-a-normal',
  station: 'colour',
  meta: {
    title: 'A normal input is fed by a normal map',
    why: 'A bump map or a colour picture in the normal input tilts every texel: the surface looks wet or dented.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['normal-map test of the pixels', 'share of grey texels', 'role by input and by name'],
  },
  options: z.strictObject({
    least: z
      .number()
      .min(0)
      .max(1)
      .default(0.5)
      .describe('how sure the pixels must be of being a normal map'),
    doubt: z
      .number()
      .min(0)
      .max(1)
      .default(0.3)
      .describe('how sure they must be at least for a caution to do'),
    grey: z
      .number()
      .min(0)
      .max(1)
      .default(0.95)
      .describe('share of grey texels from which it counts as a bump map'),
    strength: z
      .number()
      .positive()
      .default(4)
      .describe('slope that the remedy gives a step from black to white over one texel'),
  }),
  messages: {
    bump: 'The pixels are grey: it is a bump or height map, not a normal map.',
    other: 'The pixels are no normal map ({isNormal|%} sure).',
    unsure: {
      level: 'caution',
      text: 'The pixels may be a normal map or not ({isNormal|%} sure): it leans, or hardly a vector is whole.',
    },
    object:
      'Its vectors have full length and point in all directions: it is in object space. Inputs read tangent space.',
    single: 'It has one channel only; a normal map has three.',
  },
  labels: { make: 'Make a normal map of it', tangent: 'Bring it to tangent space' },
  judge(subject, { least, doubt, grey, strength }) {
    const findings: RawFinding<'bump' | 'object' | 'other' | 'unsure' | 'single', 'make' | 'tangent'>[] = []
    for (const texture of subject.textures) {
      if (
        !(texture.role === 'normal' || texture.uses.some((use) => use.input === 'normal')) ||
        !texture.facts?.channels
      )
        continue
      const { normal } = texture.facts
      if (normal && normal.isNormalMap >= least) continue
      const message = !normal
        ? 'single'
        : normal.shareGrey >= grey
          ? 'bump'
          : isObjectSpace(normal)
            ? 'object'
            : normal.isNormalMap >= doubt
              ? 'unsure'
              : 'other'
      findings.push({
        message,
        data: { isNormal: normal?.isNormalMap ?? 0 },
        place: { kind: 'texture', texture: texture.name },
        gauge: { value: normal?.isNormalMap ?? 0, unit: 'share', min: least, scale: 'linear' },
        remedies:
          message === 'object' && texture.uses.some((use) => use.input === 'normal')
            ? [
                {
                  remedy: 'colour/object-to-tangent',
                  options: { texture: texture.name, green: subject.rulebook.green },
                  label: 'tangent',
                },
              ]
            : message === 'other' || message === 'unsure' || message === 'object'
              ? []
              : [
                  {
                    remedy: 'colour/normal-from-height',
                    options: { texture: texture.name, strength, green: subject.rulebook.green },
                    label: 'make',
                  },
                ],
      })
    }
    return findings
  },
})

/**
 * Vectors of a map in object space have full length like those of a tangent-space one, but as many point into the
 * sheet as the model has surface that faces back: they lean to no side much. Colours do not have full length.
 */
const isObjectSpace = ({ shareUnitLength, shareFacingAway, meanDirection }: NormalFacts): boolean =>
  shareUnitLength >= 0.85 &&
  shareFacingAway >= 0.15 &&
  shareFacingAway <= 0.85 &&
  Math.hypot(...meanDirection) <= 0.65
