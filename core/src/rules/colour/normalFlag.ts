import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const normalFlag = defineRule({
  id: 'colour/normal-flag',
  station: 'colour',
  meta: {
    title: 'A normal map is marked as one',
    why: 'What is not known to be a normal map is compressed and filtered as a picture, and its relief turns to mush.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['normal-map test of the pixels', 'role by input, by file and by name'],
  },
  options: z.strictObject({
    sure: z.number().min(0).max(1).default(0.9).describe('how sure the pixels must be'),
    relief: z.number().min(0).default(0.004).describe('deviation of red and green that the map must have'),
  }),
  messages: {
    unmarked:
      'By its pixels it is a normal map ({sure|%} sure), but nothing says so: no input, no mark in the file, no name.',
    other: 'By its pixels it is a normal map ({sure|%} sure), but {from} says {role}.',
  },
  labels: { mark: 'Mark as normal map' },
  judge(subject, { sure, relief }) {
    const findings: RawFinding<'unmarked' | 'other', 'mark'>[] = []
    for (const texture of subject.textures) {
      const { normal, channels } = texture.facts ?? {}
      if (
        !normal ||
        !channels ||
        texture.role === 'normal' ||
        texture.uses.some((u) => u.input === 'normal' || u.input === 'other') ||
        normal.isNormalMap < sure
      )
        continue
      if (channels[0]!.deviation < relief && channels[1]!.deviation < relief) continue
      findings.push({
        message: texture.role === null ? 'unmarked' : 'other',
        data: {
          sure: normal.isNormalMap,
          role: texture.role ?? '',
          from:
            texture.roleFrom === 'input'
              ? 'its input'
              : texture.roleFrom === 'file'
                ? 'the file'
                : 'its name',
        },
        place: { kind: 'texture', texture: texture.name },
        gauge: { value: normal.isNormalMap, unit: 'share', max: sure, scale: 'linear' },
        remedies:
          texture.roleFrom === 'input'
            ? []
            : [
                {
                  remedy: 'colour/set-role',
                  options: { texture: texture.name, role: 'normal' },
                  label: 'mark',
                },
              ],
      })
    }
    return findings
  },
})
