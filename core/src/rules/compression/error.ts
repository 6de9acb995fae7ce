import * as z from 'zod'
import { listInWords } from '../../numbers/listInWords'
import { storedFormat } from '../../subject/storedFormat'
import { defineRule, type RawFinding } from '../defineRule'
import { findingsOf } from '../findingsOf'

type Found = RawFinding<'decibels' | 'angle' | 'channel' | 'unmeasured', never>

const channelWords = { R: 'red', G: 'green', B: 'blue', A: 'alpha' } as const

export const error = defineRule({
  id: 'compression/error',
  station: 'compression',
  meta: {
    title: 'A texture survives the format that the target stores it in',
    why:
      'Blocks are made of few values: gradients become steps, fine vectors turn, and a channel that the ' +
      'format does not keep is gone. A table says what a format costs, only encoding says what it loses.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: [
      'difference of the texture from itself, encoded as the target stores it and decoded again, over the texels that islands use',
      'whether the target has losses measured',
    ],
  },
  options: z.strictObject({
    decibels: z.number().min(10).max(80).default(32).describe('dB that it keeps, over all channels'),
    degrees: z
      .number()
      .min(0.1)
      .max(45)
      .default(2)
      .describe('degrees that vectors may be off by, on average'),
    mostDegrees: z
      .number()
      .min(0.1)
      .max(90)
      .default(8)
      .describe('degrees that 95 % of the vectors stay below, in the worst window'),
  }),
  messages: {
    decibels: 'As {format} it keeps {psnr} dB; at least {least} are wanted.',
    angle:
      'As {format} its vectors are off by {mean}° on average, 95 % of them by up to {p95}°; {most}° and {mostP95}° are allowed.',
    channel: {
      level: 'stop',
      text: '{format} does not keep {channels}, which {say} something here.',
    },
    unmeasured: {
      level: 'note',
      text: 'What {format} loses of it was not measured.',
    },
  },
  labels: {},
  judge: (subject, { decibels, degrees, mostDegrees }) => {
    if (!subject.target.measuresError) return []
    return findingsOf(subject.textures, (texture): Found | null => {
      const format = storedFormat(subject, texture)
      if (format === null) return null
      const place = { kind: 'texture' as const, texture: texture.name },
        stored = texture.asStored
      if (!stored) return { message: 'unmeasured', data: { format }, place }
      const { lost, angle, psnr } = stored
      if (lost.length > 0)
        return {
          message: 'channel',
          data: {
            format,
            channels: listInWords(lost.map((c) => channelWords[c])),
            say: lost.length === 1 ? 'says' : 'say',
          },
          place,
        }
      if (angle) {
        if (angle.mean <= degrees && angle.p95 <= mostDegrees) return null
        return {
          message: 'angle',
          data: {
            format,
            mean: rounded(angle.mean),
            p95: rounded(angle.p95),
            most: degrees,
            mostP95: mostDegrees,
          },
          place,
          measure: angle.mean,
        }
      }
      if (psnr === null || psnr >= decibels) return null
      return {
        message: 'decibels',
        data: { format, psnr: rounded(psnr), least: decibels },
        place,
        measure: psnr,
      }
    })
  },
})

const rounded = (value: number): number => Number(value.toFixed(1))
