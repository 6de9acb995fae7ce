import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const emptyResolution = defineRule({
  id: 'compression/empty-resolution',
  station: 'compression',
  meta: {
    title: 'The resolution carries something',
    why:
      'A picture that was blown up or is soft all over takes four times the memory of one half as ' +
      'large and shows nothing more.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: [
      'difference of the picture from itself, shrunk and enlarged again',
      'least and greatest value of every channel',
    ],
  },
  options: z.strictObject({
    side: z.int().min(1).default(256).describe('texels a side up to which nothing is said'),
    decibels: z
      .number()
      .min(45)
      .max(80)
      .default(45)
      .describe('from which on a picture carries nothing more than a smaller one'),
  }),
  messages: {
    empty:
      '{width} × {height} texels carry no more than {toWidth} × {toHeight} would: shrunk and ' +
      'enlarged again they differ by {psnr} dB.',
  },
  labels: { resize: 'Resize to {toWidth} × {toHeight}' },
  judge: (subject, { side, decibels }) =>
    findingsOf(subject.textures, (texture) => {
      const { header, channels, resolution } = texture.facts ?? {}
      if (!header || !channels || !resolution || resolution.times === 1) return null
      // One flat value is the business of colour/flat
      if (Math.max(header.width, header.height) <= side || channels.every((c) => c.max === c.min)) return null
      if (resolution.psnr !== null && resolution.psnr < decibels) return null
      const [toWidth, toHeight] = [header.width, header.height].map((v) =>
        Math.max(4, Math.round(v / resolution.times)),
      ) as [number, number]
      return {
        message: 'empty' as const,
        data: {
          width: header.width,
          height: header.height,
          toWidth,
          toHeight,
          psnr: resolution.psnr === null ? 'no' : Number(resolution.psnr.toFixed(1)),
          times: resolution.times,
        },
        place: { kind: 'texture' as const, texture: texture.name },
        measure: resolution.times,
        remedies: [
          {
            remedy: 'compression/resize',
            options: { texture: texture.name, width: toWidth, height: toHeight },
            label: 'resize' as const,
          },
        ],
      }
    }),
})
