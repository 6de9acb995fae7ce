import * as z from 'zod'
import type { SlotFacts } from '@stern-gate/contract'
import { srgbToLinear } from '../../image/transferCurves'
import { hexOfLinear } from '../../surfaces/hexColour'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const baseRange = defineRule({
  id: 'colour/base-range',
  station: 'colour',
  meta: {
    title: 'Base colour stays in the range of real surfaces',
    why:
      'Surfaces darker than coal or brighter than snow cannot be lit right: ' +
      'they swallow or throw back more light than there is.',
    level: 'note',
    kinds: ['mesh', 'texture-set'],
    reads: ['brightness of base colour texels', 'base colour of slots without a texture'],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.25)
      .describe('of the texels that may lie outside sRGB 30 to 240'),
  }),
  messages: {
    dark: '{share|%} of the texels are darker than sRGB 30.',
    bright: '{share|%} of the texels are brighter than sRGB 240.',
    valueDark: 'Slot {slot} has the base colour {hex}; every channel is below sRGB 30.',
    valueBright: 'Slot {slot} has the base colour {hex}; every channel is above sRGB 240.',
  },
  labels: {},
  judge: (subject, { share: limit }) => [
    ...findingsOf(subject.textures, (texture) => {
      const range = texture.facts?.range
      if (texture.role !== 'basecolor' || !range) return null
      const worse = range.dark >= range.bright ? ('dark' as const) : ('bright' as const),
        share = range[worse]
      if (share <= limit) return null
      return {
        message: worse,
        data: { share },
        place: { kind: 'texture' as const, texture: texture.name },
        gauge: { value: share, unit: 'share' as const, max: limit, scale: 'linear' as const },
        measure: share,
      }
    }),
    ...findingsOf(subject.mesh?.slots ?? [], (slot) => {
      const message = isColourOfValues(slot) ? outsideRange(slot.baseColour) : null
      return (
        message && {
          message,
          data: { slot: slot.name, hex: hexOfLinear(slot.baseColour) },
          place: { kind: 'slot' as const, slot: slot.name, input: 'basecolor' },
        }
      )
    }),
  ],
})

/** Whether a slot has its colour from a value that somebody chose, and whether that colour is lit by light that falls on it. */
const isColourOfValues = (slot: SlotFacts): boolean =>
  !slot.textures.some((t) => t.input === 'basecolor') &&
  !(slot.surface === null && slot.baseColour.every((v) => v === 1)) &&
  slot.emissive.every((v) => v === 0) &&
  (slot.values?.transmission ?? 0) === 0 &&
  slot.baseColour[3] > 0

const DARK = srgbToLinear(30 / 255),
  BRIGHT = srgbToLinear(240 / 255)

function outsideRange([r, g, b]: readonly number[]): 'valueDark' | 'valueBright' | null {
  const rgb = [r!, g!, b!]
  return rgb.every((v) => v < DARK) ? 'valueDark' : rgb.every((v) => v > BRIGHT) ? 'valueBright' : null
}
