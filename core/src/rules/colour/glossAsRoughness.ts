import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const glossAsRoughness = defineRule({
  id: 'colour/gloss-as-roughness',
  station: 'colour',
  meta: {
    title: 'A gloss map is not used as roughness',
    why: 'Gloss is roughness upside down: polished parts come out dull and dull ones shine, and it only looks a bit off.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ["words of the texture's name", 'role by input and by name'],
  },
  options: z.strictObject({
    words: z
      .array(z.string())
      .default(['gloss', 'glossiness', 'glossy', 'smoothness', 'smooth'])
      .describe('words that stand for gloss'),
  }),
  messages: {
    gloss: 'The name says gloss, and it is used as roughness.',
    loose: {
      level: 'note',
      text: 'The name says gloss, and nothing uses it yet. Where roughness is wanted it has to be inverted.',
    },
  },
  labels: { invert: 'Invert it to roughness', green: 'Invert its green channel to roughness' },
  judge(subject, { words }) {
    const findings: RawFinding<'gloss' | 'loose', 'invert' | 'green'>[] = []
    for (const texture of subject.textures) {
      if (!texture.facts?.header.decodes || texture.facts.header.statedRole === 'roughness') continue
      const isUsed = texture.uses.some((u) => u.input === 'metallic-roughness' || u.input === 'orm')
      // A gloss map in an input of an extension may be meant as one
      const isLoose = texture.uses.length === 0 && texture.role === 'roughness'
      if (!(isUsed || isLoose) || !texture.words.all.some((w) => words.includes(w))) continue
      const packed = texture.uses.length > 0 && texture.facts.header.channels >= 3
      findings.push({
        message: isUsed ? 'gloss' : 'loose',
        data: {},
        place: { kind: 'texture', texture: texture.name },
        remedies: [
          {
            remedy: 'colour/invert',
            options: { texture: texture.name, channel: packed ? 'G' : 'all', becomes: 'roughness' },
            label: packed ? 'green' : 'invert',
          },
        ],
      })
    }
    return findings
  },
})
