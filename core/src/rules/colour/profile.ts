import * as z from 'zod'
import { wantedSpace } from '../../subject/wantedSpace'
import { defineRule } from '../defineRule'

export const profile = defineRule({
  id: 'colour/profile',
  station: 'colour',
  meta: {
    title: 'Colour maps use the sRGB curve',
    why:
      'A picture saved with another profile or gamma shows other colours in the game than where it ' +
      'was painted, where the profile is obeyed.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['colour chunks and profiles of the texture', 'role by input and by name'],
  },
  options: z.strictObject({}),
  messages: {
    other: 'Says {evidence}: its colours are meant for another curve than sRGB.',
  },
  labels: { srgb: 'Call it sRGB, values kept' },
  judge: (subject) =>
    subject.textures
      .filter(
        (t) =>
          t.facts?.header.colourSpace === 'other' &&
          subject.rulebook.colourTags === 'count' &&
          !t.embedded &&
          wantedSpace(t, subject) === 'srgb',
      )
      .map((t) => ({
        message: 'other' as const,
        data: { evidence: t.facts!.header.colourEvidence.join(', ') || 'another profile' },
        place: { kind: 'texture' as const, texture: t.name },
        remedies: [
          { remedy: 'colour/set-space', options: { texture: t.name, space: 'srgb' }, label: 'srgb' as const },
        ],
      })),
})
