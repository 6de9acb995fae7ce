import type { TextureFacts } from '@stern-gate/contract'
import { inKernels } from '../kernels/inKernels'
import { fullValue, type Pixels } from './pixels'
import { holdTexels, sampledTexels, valueBytes } from './sampledTexels'

const DARK = 30 / 255
const BRIGHT = 240 / 255
/** Texels clearer than this are not seen. */
const SEEN = 8 / 255

/**
 * Share of texels that are darker or brighter, in every colour channel, than surfaces are; clear texels do
 * not count.
 */
export function colourRange(
  pixels: Pixels,
  sample = sampledTexels(pixels),
): NonNullable<TextureFacts['range']> {
  const { channels } = pixels,
    full = fullValue(pixels)
  // Two and four channels end with alpha
  const alpha = channels % 2 === 0 ? channels - 1 : channels
  return inKernels((room) => {
    const counts = room.filled(12),
      at = holdTexels(room, sample)
    room.run.rangeOf(
      at,
      sample.texels,
      channels,
      valueBytes(pixels),
      alpha,
      SEEN * full,
      DARK * full,
      BRIGHT * full,
      counts,
    )
    const [sampled, dark, bright] = room.words(counts, 3) as unknown as [number, number, number]
    return { dark: sampled ? dark / sampled : 0, bright: sampled ? bright / sampled : 0, sampled }
  })
}
