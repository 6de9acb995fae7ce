import * as z from 'zod'
import type { ColourSpace } from '@stern-gate/contract'
import { defineRule, type RawFinding } from '../defineRule'
import type { Subject } from '../../subject/subject'
import { wantedSpace } from '../../subject/wantedSpace'

export const space = defineRule({
  id: 'colour/space',
  station: 'colour',
  meta: {
    title: 'Colour maps are sRGB, data maps linear',
    why: 'A mask, normal or roughness map that is read as colour has its values bent; it only looks a bit off, everywhere.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['colour chunks of the texture', 'role by input and by name'],
  },
  options: z.strictObject({}),
  messages: {
    dataAsColour: 'Flagged sRGB ({evidence}), but it carries {role}: its values would be bent.',
    colourAsData:
      'Flagged linear ({evidence}), but it carries {role}: it would come out too dark or too bright.',
    bentData: 'Carries {role}, and its file asks for another curve ({evidence}): its values would be bent.',
    both: {
      level: 'stop',
      text: 'Feeds a colour input and a data input: {inputs}. It can only be right for one of them.',
    },
    ignored: {
      level: 'note',
      text:
        'Flagged {space} ({evidence}), and it carries {role}. It stands inside the mesh file, and ' +
        'what a picture there says of its colours is ignored; it counts as soon as the picture is ' +
        'taken out.',
    },
  },
  labels: { linear: 'Set linear', srgb: 'Set sRGB' },
  judge(subject) {
    const findings: RawFinding<
      'dataAsColour' | 'colourAsData' | 'bentData' | 'both' | 'ignored',
      'linear' | 'srgb'
    >[] = []
    for (const texture of subject.textures) {
      if (!texture.facts) continue
      const { colourSpace, colourEvidence } = texture.facts.header
      const wanted = wantedSpace(texture, subject)
      if (wanted === colourSpace || wanted === 'any' || wanted === 'unknown') continue
      const place = { kind: 'texture' as const, texture: texture.name }
      // Where nothing tells what it carries, names/role-known says so, and that this is not judged
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
      else if (subject.rulebook.colourTags === 'ignored' || !isContrary(wanted, colourSpace)) continue
      else if (texture.embedded && isGltf(subject))
        findings.push({
          message: 'ignored',
          data: { ...data, space: spaceWords[colourSpace] },
          place,
          remedies: set(wanted),
        })
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

/** A file that says nothing is read as what it is used for. */
const isContrary = (wanted: 'srgb' | 'linear', stated: ColourSpace): boolean =>
  stated !== 'unstated' && stated !== wanted && !(wanted === 'srgb' && stated === 'other')

const isGltf = ({ mesh }: Subject): boolean => mesh?.file.format === 'glb' || mesh?.file.format === 'gltf'

const spaceWords: Record<ColourSpace, string> = {
  srgb: 'sRGB',
  linear: 'linear',
  other: 'for another curve',
  unstated: 'as nothing',
}
