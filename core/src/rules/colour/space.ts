import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'
import { wantedSpace } from '../wantedSpace'

export const space = defineRule({
  id: 'colour/space',
  station: 'colour',
  meta: {
    title: 'Colour maps are sRGB, data maps linear',
    why: 'A mask, normal or roughness map that is read as colour has its values bent; it only looks a bit off, everywhere.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['colour chunks of the texture', 'role by input and by name'],
  },
  options: z.strictObject({}),
  messages: {
    dataAsColour: 'Flagged sRGB ({evidence}), but it carries {role}: its values would be bent.',
    colourAsData:
      'Flagged linear ({evidence}), but it carries {role}: it would come out too dark or too bright.',
    bentData: 'Carries {role}, and its file asks for another curve ({evidence}): its values would be bent.',
    both: 'Feeds a colour input and a data input: {inputs}. It can only be right for one of them.',
    unknown: {
      level: 'note',
      text: 'Nothing tells what it carries, neither an input nor its name, so its colour space ({evidence}) cannot be judged.',
    },
  },
  labels: { linear: 'Set linear', srgb: 'Set sRGB' },
  judge(subject) {
    const findings: RawFinding<
      'dataAsColour' | 'colourAsData' | 'bentData' | 'both' | 'unknown',
      'linear' | 'srgb'
    >[] = []
    for (const texture of subject.textures) {
      if (!texture.facts) continue
      const { colourSpace, colourEvidence } = texture.facts.header
      const wanted = wantedSpace(texture, subject)
      if (wanted === colourSpace) continue
      const place = { kind: 'texture' as const, texture: texture.name }
      const data = {
        evidence: colourEvidence.join(', ') || 'nothing stated',
        role: texture.role ?? texture.uses[0]?.field ?? 'data',
      }
      const set = (to: 'linear' | 'srgb') => [
        { remedy: 'colour/set-space', options: { texture: texture.name, space: to }, label: to },
      ]
      if (wanted === 'both')
        findings.push({
          message: 'both',
          data: { ...data, inputs: texture.uses.map((u) => `${u.field} of ${u.slot}`).join(', ') },
          place,
        })
      else if (wanted === 'unknown') findings.push({ message: 'unknown', data, place })
      else if (wanted === 'linear' && colourSpace === 'srgb')
        findings.push({ message: 'dataAsColour', data, place, remedies: set('linear') })
      else if (wanted === 'linear' && colourSpace === 'other')
        findings.push({ message: 'bentData', data, place, remedies: set('linear') })
      else if (wanted === 'srgb' && colourSpace === 'linear')
        findings.push({ message: 'colourAsData', data, place, remedies: set('srgb') })
    }
    return findings
  },
})
